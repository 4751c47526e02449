import { buyerKey, type BuyerReference, findBuyerFacts } from '../buyers/buyer'
import type { RecordKind } from '../issue/issue'
import { matchWho } from '../predicates/who'
import { compareRungs, rungOf } from '../price/ladder'
import type { PriceLine } from '../price/price-list'
import { type Change, getSettings, type Store } from '../store/store'
import { baseUnits, baseUnitsOf, type CatalogueIndex, indexCatalogue } from './catalogue-index'
import { compileList, type CompiledList } from './compiled-list'
import type { Ladder, LadderList, PreparedStore } from './prepared-store'

/** Compiles a store once, so that every question after it only looks up. */
export function prepare(store: Store): PreparedStore {
  const { priceDigits: digits } = getSettings(store)
  const index = indexCatalogue(store)
  const lines = linesByList(store)
  const lists = new Map<string, CompiledList>()
  for (const list of store['price-list'].values()) {
    lists.set(list.id, compileList(list, lines.get(list.id) ?? [], index, digits))
  }
  return {
    store,
    digits,
    index,
    base: baseUnits(store, index),
    lists,
    ladders: new Map(),
    columns: new Map(),
  }
}

/** What must be made anew when a record of a kind changes. */
const AFFECTS: Readonly<Record<RecordKind, 'everything' | 'base' | 'list' | 'ladders'>> = {
  settings: 'everything',
  category: 'everything',
  product: 'base',
  variant: 'base',
  group: 'ladders',
  account: 'ladders',
  'price-list': 'list',
  'price-line': 'list',
}

/**
 * The prepared store after some changes, making anew only what they touch.
 *
 * Holds  `refresh(prepare(a), b, changes from a to b)` answers like `prepare(b)`.
 */
export function refresh(prepared: PreparedStore, next: Store, changes: readonly Change[]): PreparedStore {
  if (changes.some((change) => AFFECTS[change.kind] === 'everything' || movesItems(change)))
    return prepare(next)

  const { index, digits } = prepared
  const touches = (part: string) => changes.some((change) => AFFECTS[change.kind] === part)
  let { base } = prepared
  if (touches('base')) {
    base = Float64Array.from(base)
    for (const number of changes.flatMap((change) => numbersTouched(index, change))) {
      base[number] = baseUnitsOf(next, index.variants[number] as string, digits)
    }
  }
  const lists = new Map(prepared.lists)
  if (touches('list')) {
    const touched = new Set(changes.flatMap(listsTouched))
    const lines = linesByList(next, touched)
    for (const id of touched) {
      const list = next['price-list'].get(id)
      if (list) lists.set(id, compileList(list, lines.get(id) ?? [], index, digits))
      else lists.delete(id)
    }
  }
  return { store: next, digits, index, base, lists, ladders: new Map(), columns: new Map() }
}

/**
 * The lists that are on and hold the buyer, in the order they are asked.
 *
 * Errors  `null` when the buyer does not exist.
 */
export function findLadder(prepared: PreparedStore, buyer: BuyerReference): Ladder | null {
  const key = buyerKey(buyer)
  const known = prepared.ladders.get(key)
  if (known) return known
  const facts = findBuyerFacts(prepared.store.group, prepared.store.account, buyer)
  if (!facts) return null

  const lists: LadderList[] = []
  for (const compiled of prepared.lists.values()) {
    if (compiled.list.state === 'off') continue
    const match = matchWho(compiled.list.audience, facts)
    if (match.matches) lists.push({ compiled, rung: rungOf(match.by), audience: match.by })
  }
  lists.sort(
    (left, right) =>
      compareRungs(left.rung, right.rung) ||
      left.compiled.list.rank - right.compiled.list.rank ||
      (left.compiled.list.code < right.compiled.list.code ? -1 : 1),
  )
  const ladder: LadderList[][] = []
  for (const list of lists) {
    const step = ladder.at(-1)
    const first = step?.[0]
    if (step && first?.rung === list.rung && first.compiled.list.rank === list.compiled.list.rank)
      step.push(list)
    else ladder.push([list])
  }
  prepared.ladders.set(key, ladder)
  return ladder
}

/** Whether a change makes, removes or re-files items, so that they must be numbered anew. */
function movesItems(change: Change): boolean {
  if (change.kind !== 'product' && change.kind !== 'variant') return false
  if (change.before === null || change.after === null) return true
  if (change.kind === 'variant') {
    return (
      change.before.product !== change.after.product ||
      sortedText(change.before.options) !== sortedText(change.after.options)
    )
  }
  const filed = ({ categories, attributes }: NonNullable<typeof change.before>) =>
    JSON.stringify([categories, sortedText(attributes)])
  return filed(change.before) !== filed(change.after)
}

/** A record read back from a database may name the same values in another order. */
function sortedText(values: Readonly<Record<string, string>>): string {
  return JSON.stringify(Object.entries(values).sort(([left], [right]) => (left < right ? -1 : 1)))
}

function numbersTouched(index: CatalogueIndex, change: Change): readonly number[] {
  if (change.kind === 'product') return index.numbersOfProduct.get(change.id) ?? []
  const number = change.kind === 'variant' ? index.numberOf.get(change.id) : undefined
  return number === undefined ? [] : [number]
}

function listsTouched(change: Change): readonly string[] {
  if (change.kind === 'price-list') return [change.id]
  if (change.kind !== 'price-line') return []
  return [change.before?.list, change.after?.list].filter((list) => list !== undefined)
}

function linesByList(store: Store, wanted?: ReadonlySet<string>): ReadonlyMap<string, readonly PriceLine[]> {
  const lines = new Map<string, PriceLine[]>()
  for (const line of store['price-line'].values()) {
    if (wanted && !wanted.has(line.list)) continue
    const known = lines.get(line.list)
    if (known) known.push(line)
    else lines.set(line.list, [line])
  }
  return lines
}
