'use client'

import { compare, type Decimal, parseDecimal, ZERO } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import type { LinePart, OrderStep, OrderStepKind } from '@/core/order/order-event'
import { checkStep, creditFor, type LineStanding, type OrderStanding } from '@/core/order/standing'
import { formatMoney } from '@/ui/format/amount'
import { useState } from 'react'
import { takeOrderStep } from './order-actions'
import { problemSentence } from './order-sentences'
import type { OrderView } from './order-view'

/** What each step is called on its button, the likely next one first. */
const BUTTONS: readonly (readonly [kind: OrderStepKind, name: string])[] = [
  ['confirm', 'Confirm'],
  ['send', 'Send'],
  ['invoice', 'Invoice'],
  ['close', 'Paid, close'],
  ['return', 'Take back'],
  ['cancel', 'Cancel'],
  ['note', 'Add a note'],
]

/** Steps that ask for something first. */
const ASKING: ReadonlySet<OrderStepKind> = new Set(['send', 'return', 'cancel', 'note'])

/** What can be done with an order now. */
export function OrderSteps({
  view,
  standing,
}: {
  readonly view: OrderView
  readonly standing: OrderStanding
}) {
  const { number, events, document } = view
  const [asking, setAsking] = useState<OrderStepKind | null>(null)
  const [problem, setProblem] = useState('')
  const [isBusy, setBusy] = useState(false)
  async function take(step: OrderStep): Promise<void> {
    const wrong = checkStep(document, standing, step)
    if (wrong) return setProblem(problemSentence(wrong, document))
    setBusy(true)
    const told = await takeOrderStep(number, events.length, step).catch(
      () => 'The server did not answer. Nothing was done; try again.',
    )
    setBusy(false)
    if (told === null) setAsking(null)
    setProblem(told ?? '')
  }
  const open = BUTTONS.filter(([kind]) => standing.steps.has(kind))
  const next = open.find(([kind]) => kind !== 'note' && kind !== 'cancel' && kind !== 'return')?.[0]
  return (
    <div className="pt-3">
      <div className="flex flex-wrap items-center gap-2" role="group" aria-label="What can be done">
        {open.map(([kind, name]) => (
          <button
            key={kind}
            type="button"
            className={`btn btn-sm ${kind === next ? 'btn-primary' : 'btn-outline'}`}
            aria-expanded={ASKING.has(kind) ? asking === kind : undefined}
            disabled={isBusy}
            onClick={() => {
              setProblem('')
              if (ASKING.has(kind)) setAsking(asking === kind ? null : kind)
              else void take({ kind } as OrderStep)
            }}
          >
            {name}
          </button>
        ))}
      </div>
      {problem && asking === null && (
        <p role="alert" className="pt-2 text-error">
          {problem}
        </p>
      )}
      {asking !== null && (
        <StepForm
          key={asking}
          kind={asking}
          view={view}
          standing={standing}
          problem={problem}
          isBusy={isBusy}
          onTake={take}
          onLeave={() => setAsking(null)}
        />
      )}
    </div>
  )
}

interface StepFormProps {
  readonly kind: OrderStepKind
  readonly view: OrderView
  readonly standing: OrderStanding
  readonly problem: string
  readonly isBusy: boolean
  readonly onTake: (step: OrderStep) => Promise<void>
  readonly onLeave: () => void
}

function StepForm({ kind, view, standing, problem, isBusy, onTake, onLeave }: StepFormProps) {
  const { document } = view
  const most = (line: LineStanding): Decimal => (kind === 'send' ? line.open : line.kept)
  const [typed, setTyped] = useState<readonly string[]>(() =>
    standing.lines.map((line) => (kind === 'send' && most(line) !== ZERO ? most(line) : '')),
  )
  const [words, setWords] = useState('')
  const [restocks, setRestocks] = useState(true)
  const parts = typed.flatMap((text, line): readonly LinePart[] => {
    const quantity = text.trim() === '' ? null : parseDecimal(typedAmount(text))
    return quantity === null ? [] : [{ line, quantity }]
  })
  const step = toStep(kind, { parts, words, restocks })
  const isRefunding = kind === 'return' || kind === 'cancel'
  const credit =
    isRefunding &&
    (kind === 'cancel' || checkStep(document, standing, { ...step, reason: '-' } as OrderStep) === null)
      ? creditFor(document, standing, step)
      : null
  const wrong = typed.findIndex((text) => text.trim() !== '' && parseDecimal(typedAmount(text)) === null)
  return (
    <form
      className="mt-3 max-w-2xl border-l-2 border-secondary pl-4"
      aria-label={TITLES[kind]}
      onSubmit={(event) => {
        event.preventDefault()
        if (wrong < 0) void onTake(step)
      }}
    >
      <h2 className="font-semibold">{TITLES[kind]}</h2>
      {(kind === 'send' || kind === 'return') && (
        <table className="w-full">
          <tbody>
            {document.lines.map((line, at) => {
              const left = most(standing.lines[at] as LineStanding)
              if (compare(left, ZERO) <= 0) return null
              return (
                <tr key={at} className="border-b border-dotted border-base-300">
                  <th scope="row" className="py-1 pr-3 text-left font-normal">
                    {line.name} <span className="text-2xs text-soft">{line.sku}</span>
                  </th>
                  <td className="py-1 text-right whitespace-nowrap">
                    <input
                      className="w-16 bg-transparent word text-right tabular-nums aria-[invalid=true]:border-error"
                      aria-label={`How many of ${line.sku}`}
                      aria-invalid={wrong === at}
                      inputMode="decimal"
                      value={typed[at]}
                      onChange={(event) =>
                        setTyped(typed.map((text, place) => (place === at ? event.target.value : text)))
                      }
                    />{' '}
                    <span className="text-soft">
                      of {left}
                      {kind === 'send' && <OnHand left={left} onHand={view.lines[at]?.onHand ?? null} />}
                    </span>
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
      )}
      <label className="mt-2 block">
        <span className="text-soft">{WORDS[kind]}</span>
        <input
          className="input w-full input-sm"
          value={words}
          maxLength={kind === 'note' ? 2_000 : kind === 'send' ? 100 : 500}
          onChange={(event) => setWords(event.target.value)}
        />
      </label>
      {kind === 'return' && (
        <label className="mt-2 flex gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={restocks}
            onChange={(event) => setRestocks(event.target.checked)}
          />
          Put it back into stock
        </label>
      )}
      {credit && (
        <p className="pt-2" data-testid="credit">
          {kind === 'cancel'
            ? 'No longer owed'
            : standing.invoice === null
              ? 'Taken off what is owed'
              : 'Refund'}
          : <b>{formatMoney(credit.gross, document.currency, document.digits)}</b>
          <span className="text-soft">
            , of which {formatMoney(credit.tax, document.currency, document.digits)} tax: what was paid for
            it, promotions included
          </span>
        </p>
      )}
      {(problem || wrong >= 0) && (
        <p role="alert" className="pt-2 text-error">
          {wrong >= 0 ? `“${typed[wrong]}” is not a number.` : problem}
        </p>
      )}
      <p className="flex gap-2 pt-3">
        <button type="submit" className="btn btn-primary btn-sm" disabled={isBusy}>
          {DONE[kind]}
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onLeave}>
          Leave it
        </button>
      </p>
    </form>
  )
}

/** What is on the shelf, where that is counted: too little of it stands out. */
function OnHand({ left, onHand }: { readonly left: Decimal; readonly onHand: Decimal | null }) {
  if (onHand === null) return null
  return (
    <span className={compare(onHand, left) < 0 ? 'font-semibold text-error' : ''}>, {onHand} on hand</span>
  )
}

function toStep(
  kind: OrderStepKind,
  {
    parts,
    words,
    restocks,
  }: { readonly parts: readonly LinePart[]; readonly words: string; readonly restocks: boolean },
): OrderStep {
  switch (kind) {
    case 'send':
      return { kind, parts, tracking: words.trim() }
    case 'return':
      return { kind, parts, reason: words.trim(), restocks }
    case 'cancel':
      return { kind, reason: words.trim() }
    case 'note':
      return { kind, text: words.trim() }
    default:
      return { kind }
  }
}

const TITLES: Readonly<Record<OrderStepKind, string>> = {
  confirm: 'Confirm',
  send: 'What is on its way',
  invoice: 'Invoice',
  close: 'Close',
  return: 'What came back',
  cancel: 'Cancel whatever has not been sent',
  note: 'A note, for staff only',
}

const WORDS: Readonly<Record<OrderStepKind, string>> = {
  ...{ confirm: '', invoice: '', close: '' },
  send: 'Tracking number, if there is one',
  return: 'Reason; the buyer reads it',
  cancel: 'Reason; the buyer reads it',
  note: 'Note',
}

const DONE: Readonly<Record<OrderStepKind, string>> = {
  ...{ confirm: 'Confirm', invoice: 'Invoice', close: 'Close' },
  send: 'Mark as sent',
  return: 'Take it back',
  cancel: 'Cancel the order',
  note: 'Add the note',
}
