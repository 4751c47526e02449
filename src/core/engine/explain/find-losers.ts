import { matchWhat } from '../../predicates/what'
import { matchWhen } from '../../predicates/when'
import { contractStanding, isPartyTo } from '../../price/contract'
import { circumstancesAt, matchHereAndNow, matchRule } from '../../rules/match-rule'
import { breakAt, type CompiledLine, type LineStep } from '../lists/compiled-line'
import type { CompiledList } from '../lists/compiled-list'
import { factsOf } from '../items/catalogue-index'
import { lineUnits, type Quantities, sourceUnits, stepUnits } from '../price/find-in-list'
import { isCheaper } from '../price/find-price'
import { conversionInto } from '../context/currency-view'
import type { PreparedStore } from '../context/prepared-store'
import { fromUnits, toPrice } from '../lists/price-step'
import type { LadderEntry, CurrencyView, PricingContext } from '../context/pricing-context'
import type { LineReference, Loser, LossReason } from './trace'

/** One line of a list that reaches the item, and what it comes to in the currency of the currency view. */
interface Tried {
  readonly at: LineReference
  readonly specificity: number
  /** NaN when the line gives no price. */
  readonly units: number
  readonly failure: LossReason | null
}

/** The list and line that decided. */
export interface Decided {
  readonly entry: LadderEntry
  readonly line: number
  /** Before anything that comes after the list. */
  readonly units: number
}

/** Every list and line that could have decided the price of an item and did not, with the reason. */
export function findLosers(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  quantities: Quantities,
  won: Decided | null,
): readonly Loser[] {
  const entries = pricingContext.ladder.flat()
  const standing = new Set(entries.map(({ compiled }) => compiled.list.id))
  const triesOf = (compiled: CompiledList, currencyView: CurrencyView) =>
    tryLines(prepared, currencyView, compiled, number, quantities)
  const winning =
    won && triesOf(won.entry.compiled, won.entry.currencyView).find(({ units }) => units === units)
  const off = [...prepared.lists.values()]
    .filter(({ list }) => !standing.has(list.id))
    .sort((left, right) => (left.list.code < right.list.code ? -1 : 1))
  return [
    ...entries.flatMap((entry) =>
      lossesOnLadder(
        prepared,
        pricingContext,
        entry,
        triesOf(entry.compiled, entry.currencyView),
        won,
        winning,
        number,
      ),
    ),
    ...off.map((compiled): Loser => {
      const best = triesOf(compiled, pricingContext.currencyView).find(({ units }) => units === units)
      const [reason, contract] = whyOffLadder(prepared, pricingContext, compiled)
      return {
        at: best?.at ?? { list: compiled.list.id, line: null },
        contract,
        reason,
        price: best ? toPrice(best.units, pricingContext.digits) : null,
        basis: compiled.basis,
      }
    }),
  ]
}

/** The lines of a list that reach an item, in the order they are asked. */
function tryLines(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  number: number,
  quantities: Quantities,
): readonly Tried[] {
  if (!compiled.layout.holds(number)) return []
  return compiled.layout.candidates(number).map(({ line: position, specificity }) => {
    const line = compiled.line(position)
    const units = lineUnits(prepared, currencyView, compiled, line, number, quantities)
    return {
      at: { list: compiled.list.id, line: line.line?.id ?? null },
      specificity,
      units,
      failure:
        units === units ? null : whyNoPrice(prepared, currencyView, compiled, line, number, quantities),
    }
  })
}

function whyNoPrice(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  line: CompiledLine,
  number: number,
  quantities: Quantities,
): LossReason {
  if (line.schedule) {
    const match = matchWhen(line.schedule, currencyView.at)
    if (!match.matches) {
      const { from, to } = line.schedule.schedule
      return { code: 'line-not-now', because: match.because, from, to }
    }
  }
  const counted = quantities.counted?.(compiled, line, number) ?? quantities.own
  const reached = breakAt(line, counted)
  if (reached < 0) {
    const from = fromUnits(line.froms[0] as number, 3)
    return { code: 'below-first-break', from, counted: fromUnits(counted, 3) }
  }
  const { currency } = compiled.list
  const isConvertible =
    currency === currencyView.currency || conversionInto(prepared, currencyView, currency) !== null
  const steps = line.isGraduated ? line.steps.slice(0, reached + 1) : [line.steps[reached] as LineStep]
  for (const step of steps) {
    const units = stepUnits(prepared, currencyView, compiled, step, number, quantities)
    if (units === units) continue
    const { reference, method } = step
    const source = reference && sourceUnits(prepared, currencyView, compiled, reference, number, quantities)
    if (reference && source !== source) return { code: 'no-reference', reference }
    if (isConvertible) return { code: 'not-above-zero', method }
    break
  }
  return { code: 'no-rate', from: currency, to: currencyView.currency }
}

/** What did not decide in a list of the ladder: single lines of the winning list, else the list as a whole. */
function lossesOnLadder(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  entry: LadderEntry,
  tried: readonly Tried[],
  won: Decided | null,
  winning: Tried | null | undefined,
  number: number,
): readonly Loser[] {
  const contract = entry.contract?.id ?? null
  const toLoser = ({ at, units }: Tried, reason: LossReason): Loser => ({
    at,
    contract,
    reason,
    price: toPrice(units, pricingContext.digits),
    basis: entry.compiled.basis,
  })
  const failed = tried.flatMap((line) => (line.failure ? [toLoser(line, line.failure)] : []))
  const applying = tried.filter(({ units }) => units === units)
  if (won && winning && won.entry === entry) {
    const beaten = applying.filter((line) => line !== winning && line.at.line !== winning.at.line)
    return [...failed, ...beaten.map((line) => toLoser(line, whyLaterLine(line, winning)))]
  }
  const [best] = applying
  if (!best) return failed.length > 0 ? failed : [noLine(prepared, entry, number)]
  if (!won || !winning) throw new RangeError(`list ${entry.compiled.list.id} has a price and did not win`)
  return [toLoser(best, whyLaterList(prepared, pricingContext, number, entry, best, won, winning))]
}

function whyLaterLine(line: Tried, winner: Tried): LossReason {
  const code = line.specificity < winner.specificity ? 'less-specific-line' : 'later-line'
  return { code, than: winner.at }
}

function whyLaterList(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  entry: LadderEntry,
  line: Tried,
  { entry: won, units }: Decided,
  winning: Tried,
): LossReason {
  const lowest = { units, basis: won.compiled.basis }
  const own = { units: line.units, basis: entry.compiled.basis }
  if (pricingContext.policy === 'lowest' && isCheaper(prepared, pricingContext, number, lowest, own))
    return { code: 'not-lowest', winner: fromUnits(units, pricingContext.digits), basis: lowest.basis }
  if (entry.rung !== won.rung) return { code: 'lower-rung', rung: entry.rung, winner: won.rung }
  const [rank, place] = entry.rank as [number, number]
  const [wonRank, wonPlace] = won.rank as [number, number]
  if (rank !== wonRank)
    return { code: entry.rung === 'contract' ? 'later-contract' : 'later-rank', rank, winner: wonRank }
  if (place !== wonPlace) return { code: 'later-in-contract', place: place + 1, winner: wonPlace + 1 }
  const { list } = entry.compiled
  if (entry.isForeign !== won.isForeign)
    return { code: 'foreign-currency', currency: list.currency, winner: won.compiled.list.currency }
  if (line.specificity !== winning.specificity) return { code: 'less-specific-list', winner: winning.at }
  if (entry.start !== won.start) return { code: 'earlier-start', winner: winning.at }
  return { code: 'later-code', winner: winning.at }
}

/** That a list says nothing about an item, or that one of its lines leaves the item out by name. */
function noLine({ store, index }: PreparedStore, entry: LadderEntry, number: number): Loser {
  const { compiled } = entry
  const { list, layout } = compiled
  const contract = entry.contract?.id ?? null
  const lost = (line: string | null, reason: LossReason): Loser => ({
    at: { list: list.id, line },
    contract,
    reason,
    price: null,
    basis: compiled.basis,
  })
  const facts = factsOf(store, index, number)
  const scope = matchWhat(list.scope, facts)
  if (!scope.matches && scope.because === 'excluded')
    return lost(null, { code: 'excluded-item', by: scope.by })
  if (!layout.holds(number)) return lost(null, { code: 'outside-scope' })
  for (const line of layout.excluding()) {
    const match = matchWhat(line.scope, facts)
    if (!match.matches && match.because === 'excluded')
      return lost(line.id, { code: 'excluded-item', by: match.by })
  }
  return lost(null, { code: 'no-line' })
}

/** Why a list is not asked at all, and the contract that is the reason. */
function whyOffLadder(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  { list, schedule }: CompiledList,
): readonly [LossReason, string | null] {
  const { buyer, at } = pricingContext
  const circumstances = circumstancesAt(pricingContext)
  const verdict = matchRule(list, schedule, circumstances)
  const because = verdict.holds ? null : verdict.because
  if (because?.code === 'archived' || because?.code === 'off') return [because, null]
  const bound = [...prepared.contracts.values()].filter(
    ({ contract }) => contract.lists.includes(list.id) && isPartyTo(contract, buyer),
  )
  const inForce = bound.some(({ contract, period }) => contractStanding(contract, period, at) === 'in-force')
  const [first] = bound
  if (!inForce && because?.code === 'not-for-buyer') {
    if (!first) return [because, null]
    const { contract, period } = first
    const standing = contractStanding(contract, period, at)
    if (standing === 'in-force') throw new RangeError('a contract is in force and is not')
    return [
      { code: 'contract', contract: contract.id, standing, from: contract.from, to: contract.to },
      contract.id,
    ]
  }
  // Who is bound by a contract need not be among those the list is for.
  const elsewhere = matchHereAndNow(list, schedule, circumstances)
  if (!elsewhere) throw new RangeError(`list ${list.id} holds and is not on the ladder`)
  return [elsewhere.because, null]
}
