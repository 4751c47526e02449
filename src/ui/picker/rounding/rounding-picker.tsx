'use client'

import { decimal, parseDecimal } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { type RoundingRule, roundPrice } from '@/core/decimal/rounding'
import { InputReader } from '@/core/issue/input-reader'
import { parseRounding } from '@/core/issue/parse-rounding'
import { typedAmount } from '@/core/decimal/written-amount'
import { readRounding, writeRounding } from '@/core/notation/rounding-text'
import { roundingPhrase } from '@/ui/format/rule-phrases'
import { type ReactNode, useState } from 'react'
import { PickerPanel } from '../panel/picker-panel'
import { TypedSentence } from '../typed-sentence'
import { Heading, Key } from '../panel/picker-parts'
import type { StripProps } from '../strips/strip'
import { useDone } from '../panel/use-done'
import { NumberLine } from './number-line'

const KINDS = [
  ['', 'to the smallest unit'],
  ['0.05', 'to a step'],
  ['ends 0.95', 'to an ending'],
] as const

const STEPS = ['0.05', '0.1', '0.5', '1', '5', '10']
const ENDINGS = ['.95', '.90', '.99', '.49 .99', '.00 .50']
const MODES = {
  step: [
    ['half-up', 'nearest'],
    ['up', 'up'],
    ['down', 'down'],
    ['half-even', 'nearest, ties to even'],
    ['half-down', 'nearest, ties down'],
  ],
  endings: [
    ['nearest', 'nearest'],
    ['up', 'up'],
    ['down', 'down'],
  ],
} as const
/** Amounts of every size that come out of a percentage, to see what a rule does to each. */
const EXAMPLES = ['0.83', '7.1315', '23.45', '71.825', '268.4']

const TAB =
  'border-b border-transparent text-secondary aria-pressed:border-base-content aria-pressed:font-semibold aria-pressed:text-base-content'

/** The rule that is typed; `null` where it is none, `undefined` where it says the smallest unit. */
function ruleOf(text: string): RoundingRule | null | undefined {
  const read = readRounding(text)
  if (!read.ok) return null
  if (read.value === null) return undefined
  const reader = new InputReader('price-list', '')
  const parsed = reader.result(parseRounding(reader, read.value, 6))
  return parsed.ok ? parsed.value : null
}

/** How computed prices are rounded: to a step or to endings, drawn on a number line and tried on five amounts. */
export function RoundingPicker({ label, initial, onDone, onCancel, onChange }: StripProps) {
  const [typed, setTyped] = useState(initial)
  const [exact, setExact] = useState('71.825')
  const { problem, setProblem, isBusy, done } = useDone(onDone)
  const rule = ruleOf(typed)
  const kind = rule === undefined ? 'unit' : rule?.kind
  const words = rule ? roundingPhrase(rule) : 'to the smallest unit'

  function change(text: string): void {
    setTyped(text)
    setProblem(null)
    const next = ruleOf(text)
    if (next !== null) onChange?.(next ? roundingPhrase(next) : 'to the smallest unit')
  }
  const changeRule = (next: RoundingRule) => change(writeRounding(next))
  const keep = () =>
    rule === null
      ? setProblem('A step must be above zero; endings must rise and stay below what they repeat in.')
      : void done(typed)
  const tried = parseDecimal(typedAmount(exact))
  return (
    <PickerPanel
      label={label}

      problem={problem}
      isBusy={isBusy}
      keys={
        <>
          <Key>↓</Key> kind · <Key>Tab</Key> next · type it in the field above
        </>
      }
      onDone={keep}
      onCancel={onCancel}

      foot={<b>Computed prices go {words}.</b>}
    >
      <TypedSentence
        title="Rounded"
        label="Rounding"
        placeholder="to the smallest unit; type 0.05, or ends .95"
        value={typed}
        isWrong={rule === null}
        onType={change}
      />
      <div className="grid md:grid-cols-[11rem_1fr_1fr] md:divide-x md:divide-base-300">
        <div data-column className="px-6 py-2">
          <Heading>Prices go</Heading>
          {KINDS.map(([text, name], at) => {
            const isChosen = kind === (['unit', 'step', 'endings'] as const)[at]
            return (
              <button
                key={name}
                type="button"
                data-row
                role="radio"
                aria-checked={isChosen}
                className={`block rounded-[3px] px-1 py-0.5 text-left focus:bg-chosen ${isChosen ? 'font-semibold' : ''}`}
                onClick={() => change(text)}
              >
                {isChosen ? '◉' : '○'} {name}
              </button>
            )
          })}
        </div>
        <div className="px-6 py-2">
          {rule?.kind === 'step' && (
            <Row name="Step">
              {STEPS.map((step) => (
                <button
                  key={step}
                  type="button"
                  aria-pressed={rule.step === step}
                  className={TAB}
                  onClick={() => changeRule({ ...rule, step: decimal(step) })}
                >
                  {step}
                </button>
              ))}
            </Row>
          )}
          {rule?.kind === 'endings' && (
            <>
              <Row name="Ending">
                {ENDINGS.map((endings) => {
                  const text = `ends ${endings.replaceAll('.', '0.')}`
                  return (
                    <button
                      key={endings}
                      type="button"
                      aria-pressed={String(rule.endings) === String(ruleEndings(text))}
                      className={TAB}
                      onClick={() => change(text)}
                    >
                      {endings}
                    </button>
                  )
                })}
              </Row>
              <Row name="Every">
                {['1', '10', '100'].map((period) => (
                  <button
                    key={period}
                    type="button"
                    aria-pressed={rule.period === period}
                    className={TAB}
                    onClick={() => changeRule({ ...rule, period: decimal(period) })}
                  >
                    {period}
                  </button>
                ))}
              </Row>
            </>
          )}
          {rule && (
            <Row name="Towards">
              {MODES[rule.kind].map(([mode, name]) => (
                <button
                  key={mode}
                  type="button"
                  aria-pressed={rule.mode === mode}
                  className={TAB}
                  onClick={() => changeRule({ ...rule, mode } as RoundingRule)}
                >
                  {name}
                </button>
              ))}
            </Row>
          )}
          {!rule && <p className="pt-2 text-soft">Every price keeps its smallest unit, such as a cent.</p>}
        </div>
        <div className="px-6 py-2">
          <label className="flex items-baseline gap-2 pb-1">
            <span className="text-xs font-semibold text-soft">Try an exact price</span>
            <input
              inputMode="decimal"
              aria-label="Exact price to try"
              className="w-24 border border-base-300 bg-lifted px-2 py-0.5 text-right"
              value={exact}
              onChange={(event) => setExact(event.target.value)}
            />
          </label>
          {rule && tried !== null && <NumberLine exact={tried} rule={rule} />}
          {rule && (
            <table className="w-full text-right">
              <caption className="sr-only">What it does to five exact prices</caption>
              <tbody>
                {EXAMPLES.map((each) => {
                  const amount = parseDecimal(each)
                  return (
                    <tr key={each} className="border-b border-dotted border-base-300">
                      <td className="text-soft">{each}</td>
                      <td className="px-2 text-soft">→</td>
                      <td className="font-semibold">{amount && roundPrice(toFraction(amount), rule)}</td>
                    </tr>
                  )
                })}
              </tbody>
            </table>
          )}
        </div>
      </div>
    </PickerPanel>
  )
}

function ruleEndings(text: string): readonly string[] {
  const rule = ruleOf(text)
  return rule?.kind === 'endings' ? rule.endings : []
}

function Row({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-1" role="group" aria-label={name}>
      <span className="w-16 text-soft">{name}</span>
      {children}
    </p>
  )
}
