'use client'

import { typedAmount } from '@/core/decimal/written-amount'
import { type NamedLists, readPriceRule, writePriceRule } from '@/core/notation/price-rule-text'
import type { BreaksInput, PriceMethodInput } from '@/core/price/lines/parse-breaks'
import type { Breaks } from '@/core/price/lines/price-method'
import { useMemo, useState } from 'react'
import { AmountInput } from '../amount-input'
import { PickerPanel } from '../panel/picker-panel'
import { TypedSentence } from '../typed-sentence'
import { Heading, Key } from '../panel/picker-parts'
import { useRuleSource } from '../picker-sources'
import type { StripProps } from '../strips/strip'
import { useDone } from '../panel/use-done'
import { WhenLoaded } from '../panel/when-loaded'
import type { ListName, RuleContext } from './rule-choices'
import { amountOf, KINDS, type RuleKind, switchedTo, withAmount, withReference } from './rule-moves'
import { amountTitle, Choice, References, Total } from './rule-parts'
import { TriedTable } from './tried-table'
import { useTried } from './use-tried'

interface RulePickerProps extends StripProps {
  readonly context: Omit<RuleContext, 'vantage'>
  /** Whether no rule at all may be kept, which removes the line. */
  readonly mayBeEmpty?: boolean
}

/** A price rule: its kind, what it starts from, its quantities, and what it does to real products at each key. */
export function RulePicker(props: RulePickerProps) {
  const { loadLists } = useRuleSource()
  return (
    <WhenLoaded load={loadLists} waiting="Reading price lists …">
      {(lists) => <Chooser {...props} lists={lists} />}
    </WhenLoaded>
  )
}

const TAB =
  'border-b border-transparent text-secondary aria-pressed:border-base-content aria-pressed:font-semibold aria-pressed:text-base-content'
const START: BreaksInput = {
  breaks: [{ from: '0', method: { kind: 'percent', percent: '-10', reference: { kind: 'base' } } }],
  counting: 'variant',
  pricing: 'all-units',
}

function Chooser({
  label,
  initial,
  context,
  mayBeEmpty = false,
  lists,
  onDone,
  onCancel,
  onChange,
}: RulePickerProps & { readonly lists: readonly ListName[] }) {
  const names = useMemo<NamedLists>(
    () => ({ 'price-list': new Map(lists.map((list) => [list.id, list])) }),
    [lists],
  )
  const [typed, setTyped] = useState(initial)
  const { problem, setProblem, isBusy, done } = useDone(onDone)
  const read = readPriceRule(names, typed)
  const rule = read.ok ? read.value : START
  const first = rule.breaks[0]?.method ?? (START.breaks[0]?.method as PriceMethodInput)
  const tried = useTried(context, read.ok ? typed : null)

  function type(text: string): void {
    setTyped(text)
    setProblem(null)
    onChange?.(text.trim() || 'a rule')
  }
  const change = (next: BreaksInput) => type(writePriceRule(names, next as Breaks))
  const setFirst = (method: PriceMethodInput) =>
    change({
      ...rule,
      breaks: rule.breaks.map((each) => ({ ...each, method: switchedTo(method, each.method) })),
    })
  const setBreak = (at: number, part: { from?: string; amount?: string }) =>
    change({
      ...rule,
      breaks: rule.breaks.map((each, place) =>
        place === at
          ? {
              from: part.from === undefined ? each.from : typedAmount(part.from) || '0',
              method: part.amount === undefined ? each.method : withAmount(each.method, part.amount),
            }
          : each,
      ),
    })
  const keep = () => {
    if (typed.trim() === '' && mayBeEmpty) return void done('')
    return void done(typed)
  }
  return (
    <PickerPanel
      label={label}

      problem={problem}
      isBusy={isBusy}
      keys={
        <>
          <Key>↓</Key> kind · <Key>Tab</Key> next field · type it in the field above
        </>
      }
      onDone={keep}
      onCancel={onCancel}

      foot={<>{tried?.ok ? <Total tried={tried} /> : <span className="text-soft">{label}</span>}</>}
    >
      <TypedSentence
        title="Rule"
        label="Rule"
        placeholder="15 % off base; from 10: 18 %"
        value={typed}
        isWrong={!read.ok}
        problem={read.ok ? '' : `“${read.part}” is not understood yet`}
        onType={type}
      />
      <div className="grid md:grid-cols-[13rem_17rem_1fr] md:divide-x md:divide-base-300">
        <div data-column className="px-6 py-2">
          <Heading>The price is</Heading>
          {KINDS.map(({ kind, name }) => (
            <Choice
              key={kind}
              name={name}
              isChosen={read.ok && first.kind === kind}
              onChoose={() => setFirst(switchedTo({ kind } as { kind: RuleKind }, first))}
            />
          ))}
          {(first.kind === 'percent' || first.kind === 'amount') && (
            <>
              <Heading>of</Heading>
              <References
                reference={first.reference}
                lists={lists}
                onChoose={(reference) =>
                  change({
                    ...rule,
                    breaks: rule.breaks.map((each) => ({
                      ...each,
                      method: withReference(each.method, reference),
                    })),
                  })
                }
              />
            </>
          )}
        </div>
        <div className="px-6 py-2">
          <table>
            <thead>
              <tr className="text-left text-xs text-soft">
                <th className="pb-1 font-semibold">From quantity</th>
                <th className="pb-1 pl-3 font-semibold">{amountTitle(first)}</th>
                <th>
                  <span className="sr-only">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rule.breaks.map(({ from, method }, at) => (
                <tr key={at}>
                  <td className="py-0.5">
                    <input
                      inputMode="decimal"
                      aria-label={`From quantity, row ${at + 1}`}
                      className="w-20 border border-base-300 bg-lifted px-2 py-0.5"
                      value={from === '0' ? '' : from}
                      placeholder="any"
                      onChange={(event) => setBreak(at, { from: event.target.value })}
                    />
                  </td>
                  <td className="py-0.5 pl-3">
                    <AmountInput
                      label={`${amountTitle(first)}, row ${at + 1}`}
                      value={amountOf(method)}
                      onChange={(amount) => setBreak(at, { amount })}
                    />
                  </td>
                  <td>
                    {rule.breaks.length > 1 && (
                      <button
                        type="button"
                        aria-label={`Remove row ${at + 1}`}
                        className="px-1 text-soft hover:text-error"
                        onClick={() =>
                          change({ ...rule, breaks: rule.breaks.filter((_, place) => place !== at) })
                        }
                      >
                        ×
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <button
            type="button"
            className="py-1 text-secondary"
            onClick={() => {
              const last = rule.breaks.at(-1)
              if (!last) return
              const from = last.from === '0' ? '10' : String(Number(last.from) * 2)
              change({ ...rule, breaks: [...rule.breaks, { from, method: last.method }] })
            }}
          >
            Add a quantity
          </button>
        </div>
        <div className="px-6 py-2">
          {rule.breaks.length > 1 ? (
            <>
              <p className="flex flex-wrap gap-x-3 pt-1" role="group" aria-label="Counts">
                <span className="w-14 text-soft">Counts</span>
                {(
                  [
                    ['variant', 'each variant'],
                    ['product', 'the product'],
                    ['line', 'the whole line'],
                  ] as const
                ).map(([counting, name]) => (
                  <button
                    key={counting}
                    type="button"
                    aria-pressed={rule.counting === counting}
                    className={TAB}
                    onClick={() => change({ ...rule, counting })}
                  >
                    {name}
                  </button>
                ))}
              </p>
              <p className="flex flex-wrap gap-x-3 pt-1" role="group" aria-label="Prices">
                <span className="w-14 text-soft">Prices</span>
                {(
                  [
                    ['all-units', 'all units'],
                    ['graduated', 'only units from there'],
                  ] as const
                ).map(([pricing, name]) => (
                  <button
                    key={pricing}
                    type="button"
                    aria-pressed={rule.pricing === pricing}
                    className={TAB}
                    onClick={() => change({ ...rule, pricing })}
                  >
                    {name}
                  </button>
                ))}
              </p>
            </>
          ) : (
            <p className="text-soft">
              With more than one quantity, say here whose quantity counts, and whether a reached price is for
              all units or only for those from there.
            </p>
          )}
        </div>
      </div>
      <div className="border-t border-base-300 px-6 py-2">
        {tried?.ok ? (
          <TriedTable tried={tried} />
        ) : (
          <p className="text-soft">
            {tried ? tried.problem : 'What the rule does to real products stands here, lowest margin first.'}
          </p>
        )}
      </div>
    </PickerPanel>
  )
}
