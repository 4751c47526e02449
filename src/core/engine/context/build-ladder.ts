import { matchWhere, type PlaceFacts } from '../../predicates/where'
import { type BuyerFacts, matchWho } from '../../predicates/who'
import type { Contract } from '../../price/contract'
import { compareRungs, rungOf } from '../../price/ladder'
import type { Clock } from './clock'
import type { CompiledList } from '../lists/compiled-list'
import type { PreparedStore } from './prepared-store'
import type { Ladder, LadderEntry, CurrencyView } from './pricing-context'

/** What decides which lists stand on a ladder. */
interface LadderSetting {
  readonly buyer: BuyerFacts
  readonly place: PlaceFacts
  readonly contracts: readonly Contract[]
  readonly currency: string
  readonly clock: Clock
  readonly currencyView: CurrencyView
  readonly protectedCurrencyView: CurrencyView
}

/** The lists that hold for a buyer where and when they ask, in the order they are asked. */
export function buildLadder(prepared: PreparedStore, setting: LadderSetting): Ladder {
  const { buyer, place, contracts, currency, clock, currencyView, protectedCurrencyView } = setting
  const entries: LadderEntry[] = []
  const add = (
    compiled: CompiledList,
    entry: Pick<LadderEntry, 'rung' | 'audience' | 'contract' | 'rank'>,
  ) => {
    const { list, schedule } = compiled
    if (list.state === 'off' || list.status === 'archived') return
    if (!matchWhere(list.place, place).matches || !clock.holds(schedule)) return
    watchSources(prepared, compiled, clock, new Set())
    const period = entry.contract && prepared.contracts.get(entry.contract.id)?.period
    entries.push({
      compiled,
      ...entry,
      isForeign: list.currency !== currency,
      start: period ? period.from : schedule.from,
      currencyView: entry.contract?.isProtected ? protectedCurrencyView : currencyView,
    })
  }
  const bound = new Set<string>()
  for (const contract of contracts) {
    contract.lists.forEach((id, place) => {
      const compiled = prepared.lists.get(id)
      if (!compiled || bound.has(id)) return
      bound.add(id)
      add(compiled, { rung: 'contract', audience: null, contract, rank: [contract.rank, place] })
    })
  }
  for (const compiled of prepared.lists.values()) {
    const { list } = compiled
    if (bound.has(list.id)) continue
    const match = matchWho(list.audience, buyer)
    if (match.matches)
      add(compiled, { rung: rungOf(match.by), audience: match.by, contract: null, rank: [list.rank, 0] })
  }
  return inSteps(entries.sort(compareEntries))
}

/** Lines with a schedule of their own, and lists that others are computed from, bound how long a pricing context holds. */
function watchSources(
  prepared: PreparedStore,
  { lineSchedules, referredTo }: CompiledList,
  clock: Clock,
  seen: Set<string>,
): void {
  for (const schedule of lineSchedules) clock.holds(schedule)
  for (const id of referredTo) {
    const source = prepared.lists.get(id)
    if (!source || seen.has(id)) continue
    seen.add(id)
    clock.holds(source.schedule)
    watchSources(prepared, source, clock, seen)
  }
}

/** The order of a ladder, before lines are looked at; of entries on one step, the order that breaks ties. */
function compareEntries(left: LadderEntry, right: LadderEntry): number {
  return compareSteps(left, right) || compareStarts(left, right) || (codeOf(left) < codeOf(right) ? -1 : 1)
}

function compareSteps(left: LadderEntry, right: LadderEntry): number {
  return (
    compareRungs(left.rung, right.rung) ||
    (left.rank[0] as number) - (right.rank[0] as number) ||
    (left.rank[1] as number) - (right.rank[1] as number) ||
    Number(left.isForeign) - Number(right.isForeign)
  )
}

/** The later start comes first. */
function compareStarts(left: LadderEntry, right: LadderEntry): number {
  return left.start === right.start ? 0 : right.start - left.start
}

function codeOf({ compiled }: LadderEntry): string {
  return compiled.list.code
}

function inSteps(entries: readonly LadderEntry[]): Ladder {
  const ladder: LadderEntry[][] = []
  for (const entry of entries) {
    const step = ladder.at(-1)
    if (step && compareSteps(step[0] as LadderEntry, entry) === 0) step.push(entry)
    else ladder.push([entry])
  }
  return ladder
}
