import type { Decimal } from '../decimal/decimal'
import { matchWhen } from '../predicates/when'
import type { PriceLine, PriceList } from '../price/lines/price-list'
import type { CompiledList } from '../engine/lists/compiled-list'
import { sharedMemory } from '../maps/shared-memory'
import type { Steps } from '../steps/steps'
import { aboutRecord, type Finding, type FindingKind, type Looking } from './finding'

interface Priced {
  readonly list: PriceList
  readonly amount: Decimal
}

/**
 * Pairs of price lists that nothing but their codes tells apart, and that set different prices for the same item: for the
 * same buyers and places, in one currency, of one rank and begun at the same time (of two, the later one is meant to win).
 * Only prices set for single variants are compared; what a branch makes of them depends on what is more specific.
 */
export const TIE_FINDINGS: FindingKind = {
  code: 'lists-tie',
  looksAt: ['price-list', 'price-line', 'settings'],
  *find({ prepared: { lists }, at }: Looking): Steps<readonly Finding[]> {
    const placesOf = new Map<string, readonly string[]>()
    const sharing = new Map<string, number>()
    for (const { list, schedule } of lists.values()) {
      if (list.state !== 'on' || list.status !== 'active' || !matchWhen(schedule, at).matches) continue
      const { rank, currency, taxBasis, place, audience } = list
      if (audience.exclude.length > 0) continue
      const keys = audience.include.map((term) =>
        JSON.stringify([term, rank, currency, taxBasis, place, schedule.from]),
      )
      placesOf.set(list.id, keys)
      for (const key of keys) sharing.set(key, (sharing.get(key) ?? 0) + 1)
    }
    const priced = new Map<string, Priced>()
    const pairs = new Map<string, { first: PriceList; then: PriceList; count: number }>()
    for (const compiled of lists.values()) {
      const { list } = compiled
      const keys = placesOf.get(list.id)?.filter((key) => (sharing.get(key) ?? 0) > 1) ?? []
      if (keys.length === 0) continue
      yield
      for (const set of setPrices(compiled)) {
        const met = new Set<string>()
        for (const key of keys) {
          const item = `${key} ${set.variant}`
          const other = priced.get(item)
          if (!other) priced.set(item, { list, amount: set.amount })
          else if (other.list.id !== list.id && other.amount !== set.amount && !met.has(other.list.id)) {
            met.add(other.list.id)
            const [first, then] = other.list.code < list.code ? [other.list, list] : [list, other.list]
            const pair = `${first.id}/${then.id}`
            pairs.set(pair, { first, then, count: (pairs.get(pair)?.count ?? 0) + 1 })
          }
        }
      }
    }
    return [...pairs.values()].map(({ first, then, count }) => {
      const found = aboutRecord(
        'lists-tie',
        'wrong-for-buyers',
        { kind: 'price-list', id: first.id },
        { other: then.name, count: String(count), rank: String(first.rank) },
        [{ kind: 'price-list', id: then.id, before: then, after: { ...then, rank: then.rank + 1 } }],
      )
      return { ...found, key: `${found.key}/${then.id}` }
    })
  },
}

const SET = sharedMemory('set-prices', () => new WeakMap<CompiledList, readonly SetPrice[]>())

/** Prices a list sets for single variants; kept as long as it. */
function setPrices(compiled: CompiledList): readonly SetPrice[] {
  let known = SET.get(compiled)
  if (!known) SET.set(compiled, (known = compiled.lines.flatMap((line) => setPrice(line) ?? [])))
  return known
}

interface SetPrice {
  readonly variant: string
  readonly amount: Decimal
}

/** The price a line sets for one variant from the first piece on, whenever its list holds. */
function setPrice({ scope, schedule, breaks }: PriceLine): SetPrice | null {
  const [term] = scope.include
  const [{ from, method } = { from: null, method: null }] = breaks
  if (scope.include.length !== 1 || scope.exclude.length > 0 || schedule !== null || from !== '0') return null
  return term?.kind === 'variant' && method?.kind === 'fixed'
    ? { variant: term.variant, amount: method.amount }
    : null
}
