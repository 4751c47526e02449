import { compare, type Decimal, parseDecimal } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import { InputReader } from '@/core/issue/input-reader'
import { parseRounding } from '@/core/issue/parse-rounding'
import { readRounding } from '@/core/notation/rounding-text'
import { readWhat } from '@/core/notation/what-text'
import { EVERYTHING } from '@/core/predicates/what'
import { parsePriceExpression, type PriceExpression } from '@/core/price/price-expression'
import type { RepriceRule } from '@/core/reprice/reprice'
import type { Store } from '@/core/store/store'
import { readFact, readSource, readTarget } from './reprice-choices'
import type { RepriceShown } from './reprice-url'

/** What is wrong, and where. */
export interface RepriceProblem {
  readonly field: 'of' | 'only' | 'field' | 'from' | 'rule' | 'rounding'
  readonly problem: string
}

const HOW = 'Type +5%, −2, 19.90, x1.2 or m35 for a 35 % margin; with steps: +5%; 20: +4%; 60: +3%.'

/** The rule an address asks for; `rule` is `null` where nothing is typed yet. */
export function readReprice(
  store: Store,
  { of, only, field, from, rule, rounding }: RepriceShown,
): { readonly ok: true; readonly rule: RepriceRule | null } | ({ readonly ok: false } & RepriceProblem) {
  const target = readTarget(store, field)
  if (!target.ok) return { ok: false, field: 'field', problem: target.problem }
  const source = readSource(from)
  if (!source.ok) return { ok: false, field: 'from', problem: source.problem }
  const fact = readFact(store, only)
  if (!fact.ok) return { ok: false, field: 'only', problem: fact.problem }
  const what = of.trim() === '' ? { ok: true as const, value: EVERYTHING } : readWhat(store, of)
  if (!what.ok) return { ok: false, field: 'of', problem: what.problem }
  const rounded = readRounding(rounding)
  if (!rounded.ok) return { ok: false, field: 'rounding', problem: rounded.problem }
  const reader = new InputReader('price-list', '')
  const parsed = rounded.value === null ? null : reader.result(parseRounding(reader, rounded.value, 6))
  if (parsed && !parsed.ok)
    return { ok: false, field: 'rounding', problem: `“${rounding}” rounds to nothing.` }
  if (rule.trim() === '') return { ok: true, rule: null }
  const steps: { from: Decimal | null; expression: PriceExpression }[] = []
  for (const [at, part] of rule.split(';').entries()) {
    const [first = '', second] = part.split(':')
    const text = (second ?? first).trim()
    const bound = second === undefined ? null : parseDecimal(typedAmount(first.trim()))
    if (second !== undefined && bound === null)
      return {
        ok: false,
        field: 'rule',
        problem: `“${first.trim()}” is no amount to begin a step at. ${HOW}`,
      }
    if (at > 0 && bound === null)
      return {
        ok: false,
        field: 'rule',
        problem: `“${part.trim()}” does not say from which amount on it holds. ${HOW}`,
      }
    const last = steps.at(-1)?.from ?? null
    if (bound !== null && last !== null && compare(bound, last) <= 0)
      return { ok: false, field: 'rule', problem: `Steps rise: ${bound} comes after ${last}.` }
    const expression = readExpression(text)
    if (!expression)
      return { ok: false, field: 'rule', problem: `“${text}” is not a change of a price. ${HOW}` }
    if (expression.kind === 'margin' && Number(expression.percent) >= 100)
      return {
        ok: false,
        field: 'rule',
        problem: `No price leaves a margin of ${expression.percent} %: a margin is below 100 %.`,
      }
    steps.push({ from: bound, expression })
  }
  return {
    ok: true,
    rule: {
      what: what.value,
      only: fact.value.scope,
      target: target.value,
      // The amount itself, named: the same as saying nothing.
      from: source.value === field ? null : source.value,
      steps,
      rounding: parsed?.value ?? null,
    },
  }
}

function readExpression(text: string): PriceExpression | null {
  const sign = /^[+\-−x×m]/i.exec(text)?.[0] ?? ''
  const isPercent = text.endsWith('%')
  const read = parsePriceExpression(
    `${sign}${typedAmount(text.slice(sign.length).replace(/\s*%$/, ''))}${isPercent ? '%' : ''}`,
  )
  return read.ok ? read.value : null
}
