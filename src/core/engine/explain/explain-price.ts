import { type Decimal, isPositive, multiply, ZERO } from '../../decimal/decimal'
import { addFractions, divideFractions, type Fraction, toFraction } from '../../decimal/fraction'
import { type RoundingRule, roundToDigits, toMinorUnit } from '../../decimal/rounding'
import { matchWhat } from '../../predicates/what'
import type { PriceReference } from '../../price/lines/price-method'
import { getSettings } from '../../store/store'
import { factsOf } from '../items/catalogue-index'
import { breakAt, type CompiledLine, type LineStep } from '../lists/compiled-line'
import type { CompiledList } from '../lists/compiled-list'
import {
  explainBasis,
  explainConversion,
  type Explained,
  explainReference,
  IN_UNITS,
  rounded,
  storedReference,
} from './explain-reference'
import { shown } from '../amounts/shown'
import {
  bracketQuantity,
  emptyListPrice,
  fieldOf,
  findInList,
  type Quantities,
  stepOfSale,
} from '../price/find-in-list'
import { currencyViewInto } from '../context/currency-view'
import { applyOperation, methodOperation } from '../lists/operation'
import type { PreparedStore } from '../context/prepared-store'
import { fromUnits } from '../lists/price-step'
import type { LadderEntry, CurrencyView } from '../context/pricing-context'
import type { TraceStep } from './trace'

/**
 * How a line of a list came to its price in the currency of the currency view; `null` when it gives none. `entry` is how
 * the list got onto the ladder, `null` for a list another one starts from.
 */
export function explainLine(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  position: number,
  number: number,
  quantities: Quantities,
  entry: LadderEntry | null,
): Explained | null {
  const line = compiled.line(position)
  const counted = quantities.counted?.(compiled, line, number) ?? quantities.own
  const reached = breakAt(line, counted)
  if (reached < 0) return null
  const explain = (at: number) =>
    explainBreak(prepared, currencyView, compiled, line, at, number, { quantities, counted, entry })
  if (!line.isGraduated || reached === 0) return explain(reached)
  const brackets: { quantity: Decimal; unit: Decimal }[] = []
  let last: Explained | null = null
  const step = stepOfSale(prepared, number)
  let total: Fraction = { numerator: 0n, denominator: 1n }
  for (let at = 0; at <= reached; at += 1) {
    last = explain(at)
    if (!last) return null
    const quantity = bracketQuantity(line.froms, at, counted, step)
    if (quantity <= 0) continue
    const bracket = { quantity: fromUnits(quantity, 3), unit: last.amount }
    brackets.push(bracket)
    total = addFractions(total, toFraction(multiply(bracket.quantity, bracket.unit)))
  }
  const exact = divideFractions(total, toFraction(fromUnits(counted, 3)))
  const { basis } = compiled
  const average = roundToDigits(exact, currencyView.digits, 'half-up')
  const amount = isPositive(average) ? average : toMinorUnit(currencyView.digits).step
  return {
    amount,
    basis,
    steps: [
      ...(last?.steps ?? []),
      { kind: 'brackets', brackets, amount, currency: currencyView.currency, basis },
    ],
  }
}

interface BreakSetting {
  readonly quantities: Quantities
  readonly counted: number
  readonly entry: LadderEntry | null
}

function explainBreak(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  line: CompiledLine,
  at: number,
  number: number,
  setting: BreakSetting,
): Explained | null {
  const step = line.steps[at] as LineStep
  const { currency } = compiled.list
  const within = (look: CurrencyView, before: Explained | null, rule: RoundingRule | null) =>
    before && applyLine(prepared, look, compiled, line, at, number, setting, before, rule)
  if (currency === currencyView.currency || step.reference === null) {
    const look = currencyViewInto(prepared, currencyView, currency)
    const own = within(look, startOf(prepared, look, compiled, step, number, setting), line.rounding)
    return own && currency !== currencyView.currency
      ? explainConversion(prepared, currencyView, currency, own)
      : own
  }
  if (step.isProportional && step.reference.kind !== 'list') {
    const field = fieldOf(step.reference)
    const isHome = currencyView.currency === getSettings(prepared.store).currency
    const set = storedReference(prepared, field, number, currencyView.currency)
    if (set || isHome) {
      const start = explainReference(prepared, currencyView, field, number)
      const own = within(currencyView, start, currencyView.rounding)
      if (own) return own
    }
  }
  const look = currencyViewInto(prepared, currencyView, currency)
  const own = within(look, startOf(prepared, look, compiled, step, number, setting), line.rounding)
  return own && explainConversion(prepared, currencyView, currency, own)
}

/** What a line starts from, in the list's currency. */
function startOf(
  prepared: PreparedStore,
  look: CurrencyView,
  compiled: CompiledList,
  { reference }: LineStep,
  number: number,
  { quantities }: BreakSetting,
): Explained | null {
  if (reference === null) return { amount: ZERO, basis: compiled.basis, steps: [] }
  if (reference.kind !== 'list') return explainReference(prepared, look, fieldOf(reference), number)
  return explainListReference(prepared, look, reference, number, quantities)
}

function explainListReference(
  prepared: PreparedStore,
  look: CurrencyView,
  { list }: Extract<PriceReference, { kind: 'list' }>,
  number: number,
  quantities: Quantities,
): Explained | null {
  const source = prepared.lists.get(list)
  const found = emptyListPrice()
  if (!source || !findInList(prepared, look, source, number, quantities, found)) return null
  const inner = explainLine(prepared, look, source, found.line, number, quantities, null)
  if (!inner) return null
  return {
    amount: inner.amount,
    basis: inner.basis,
    steps: [
      {
        kind: 'list-reference',
        list,
        amount: inner.amount,
        currency: look.currency,
        basis: inner.basis,
        steps: inner.steps,
      },
    ],
  }
}

function applyLine(
  prepared: PreparedStore,
  look: CurrencyView,
  compiled: CompiledList,
  line: CompiledLine,
  at: number,
  number: number,
  { counted, entry }: BreakSetting,
  before: Explained,
  rule: RoundingRule | null,
): Explained | null {
  const { method } = line.steps[at] as LineStep
  const { basis } = compiled
  const start = explainBasis(prepared, look, number, before, basis)
  const exact =
    method.kind === 'fixed'
      ? toFraction(method.amount)
      : applyOperation(methodOperation(method, IN_UNITS), start.exact)
  if (exact.numerator <= 0n) return null
  const match = line.line && matchWhat(line.line.scope, factsOf(prepared.store, prepared.index, number))
  const hasBreaks = line.froms.length > 1 || (line.froms[0] as number) > 0
  const step: TraceStep = {
    kind: 'line',
    at: { list: compiled.list.id, line: line.line?.id ?? null },
    audience: entry?.audience ?? null,
    contract: entry?.contract?.id ?? null,
    scope: match?.matches ? match.by : null,
    rung: entry?.rung ?? null,
    method,
    reached: hasBreaks
      ? {
          from: fromUnits(line.froms[at] as number, 3),
          counting: line.counting,
          counted: fromUnits(counted, 3),
        }
      : null,
    amount: shown(exact),
    currency: look.currency,
    basis,
  }
  const steps = [...start.steps, step]
  if (method.kind === 'fixed') return { steps, amount: method.amount, basis }
  return rounded(look, { steps, basis }, exact, rule)
}
