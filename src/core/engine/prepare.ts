import type { RecordKind } from '../issue/issue'
import { ALWAYS, compileSchedule } from '../predicates/when'
import { compileRules } from '../rules/rule'
import { atOnce, type Steps } from '../steps/steps'
import { applyChanges, type Change, getSettings, type Store } from '../store/store'
import { keepAmounts, readBasePrices } from './amounts/amounts'
import { type CatalogueIndex, indexCatalogue } from './items/catalogue-index'
import { compileLists, ListLines, onlyVariant } from './lists/compile-lists'
import { keepFlatPrices } from './column/column-memory'
import type { CompiledList } from './lists/compiled-list'
import type { PreparedStore } from './context/prepared-store'
import { compileTerms } from './context/terms'

/** Compiles a store once, so that every question after it only looks up. */
export function prepare(store: Store): PreparedStore {
  return atOnce(prepareInSteps(store))
}

/** `prepare` in steps. */
export function* prepareInSteps(store: Store): Steps<PreparedStore> {
  const index = yield* indexCatalogue(store)
  const lists = yield* compileLists(store, index)
  const prepared = assemble(store, index, lists, new Map())
  yield
  readBasePrices(prepared)
  return prepared
}

function assemble(
  store: Store,
  index: CatalogueIndex,
  lists: ReadonlyMap<string, CompiledList>,
  pricingContexts: PreparedStore['pricingContexts'],
): PreparedStore {
  const { timeZone, taxBasis } = getSettings(store)
  return {
    store,
    index,
    lists,
    mixesBases: [...lists.values()].some(({ basis }) => basis !== taxBasis),
    contracts: new Map(
      [...store.contract.values()].map((contract) => [
        contract.id,
        {
          contract,
          period: compileSchedule({ ...ALWAYS, from: contract.from, to: contract.to }, timeZone),
        },
      ]),
    ),
    adjustments: compileRules(store.adjustment, timeZone),
    terms: compileTerms(store),
    pricingContexts,
    amounts: new Map(),
    setAmounts: new Map(),
    naming: { current: null },
    memory: { current: null },
  }
}

/** What must be made anew when a record of a kind changes. */
const AFFECTS: Readonly<Record<RecordKind, 'everything' | 'amounts' | 'list' | 'pricingContexts'>> = {
  settings: 'everything',
  currency: 'everything',
  category: 'everything',
  extra: 'everything',
  product: 'amounts',
  variant: 'amounts',
  'price-list': 'list',
  'price-line': 'list',
  'exchange-rate': 'pricingContexts',
  channel: 'pricingContexts',
  region: 'pricingContexts',
  'price-family': 'pricingContexts',
  group: 'pricingContexts',
  account: 'pricingContexts',
  contract: 'pricingContexts',
  adjustment: 'pricingContexts',
  'tax-class': 'pricingContexts',
  tax: 'pricingContexts',
  'tax-rate': 'pricingContexts',
  limit: 'pricingContexts',
  'access-rule': 'pricingContexts',
  passcode: 'pricingContexts',
  promotion: 'pricingContexts',
  proof: 'amounts',
}

/** The prepared store as some changes would leave it; the one it is made from stays as it is. */
export function withChanges(prepared: PreparedStore, changes: readonly Change[]): PreparedStore {
  return changes.length === 0 ? prepared : refresh(prepared, applyChanges(prepared.store, changes), changes)
}

/** Reads of every list what is only read when somebody stands before it, so that the first who asks does not wait. */
export function* readyLists({ lists }: PreparedStore): Steps<void> {
  for (const list of lists.values()) {
    list.readContents()
    yield
  }
}

/** Beyond so many changes, preparing everything is quicker than finding the place of each. */
const MOST_REFRESHED = 2_000

/**
 * The prepared store after some changes, making anew only what they touch.
 *
 * Holds  `refresh(prepare(a), b, changes from a to b)` answers like `prepare(b)`.
 */
export function refresh(prepared: PreparedStore, next: Store, changes: readonly Change[]): PreparedStore {
  return atOnce(refreshInSteps(prepared, next, changes))
}

/** `refresh` in steps. */
export function* refreshInSteps(
  prepared: PreparedStore | null,
  next: Store,
  changes: readonly Change[],
): Steps<PreparedStore> {
  if (!prepared) return yield* prepareInSteps(next)
  const isLarge = changes.length > MOST_REFRESHED
  if (isLarge || changes.some((change) => AFFECTS[change.kind] === 'everything' || movesItems(change)))
    return yield* prepareInSteps(next)

  const { index } = prepared
  const touchedItems = new Set(changes.flatMap((change) => numbersTouched(index, change)))
  const lists = yield* refreshLists(prepared, next, changes, touchedItems.size > 0)
  const onlyLines = changes.every(
    ({ kind }) => kind === 'price-line' || kind === 'product' || kind === 'variant',
  )
  const isSituated = onlyLines && !changes.some(mindsLists)
  const after = assemble(next, index, lists, isSituated ? prepared.pricingContexts : new Map())
  const edited = changes.flatMap((change) =>
    (change.kind === 'product' || change.kind === 'variant') && change.after ? [change.after] : [],
  )
  after.naming.current = prepared.naming.current
  keepAmounts(prepared, after, touchedItems, edited)
  if (touchedItems.size === 0) keepFlatPrices(prepared, after)
  return after
}

/**
 * The prepared store after something ran out or came in: only what asks for stock is made anew, for the items it moved.
 *
 * Holds  `restocked(prepare(a), out)` answers like `prepare({ ...a, outOfStock: out })`.
 */
export function restocked(prepared: PreparedStore, outOfStock: ReadonlySet<string>): PreparedStore {
  const { store } = prepared
  if (store.outOfStock === outOfStock) return prepared
  const [before, after] = [[...store.outOfStock], [...outOfStock]]
  const moved = [
    ...before.filter((id) => !outOfStock.has(id)),
    ...after.filter((id) => !store.outOfStock.has(id)),
  ]
  if (moved.length === 0) return prepared
  const changes = moved.flatMap((id): readonly Change[] => {
    const variant = store.variant.get(id)
    return variant ? [{ kind: 'variant', id, before: variant, after: variant }] : []
  })
  return refresh(prepared, { ...store, outOfStock }, changes)
}

/** Whether a changed line has, or had, a schedule or a list to start from, which bound how long pricing contexts hold. */
function mindsLists(change: Change): boolean {
  if (change.kind !== 'price-line') return false
  return [change.before, change.after].some(
    (line) =>
      line !== null &&
      (line.schedule !== null ||
        line.breaks.some(({ method }) => 'reference' in method && method.reference.kind === 'list')),
  )
}

function* refreshLists(
  prepared: PreparedStore,
  next: Store,
  changes: readonly Change[],
  itemsChanged: boolean,
): Steps<ReadonlyMap<string, CompiledList>> {
  const { index } = prepared
  const lists = new Map(prepared.lists)
  const linesOf = new Map<string, ListLines>()
  const linesNow = (id: string) => {
    const lines = linesOf.get(id) ?? ListLines.of(prepared.lists.get(id))
    linesOf.set(id, lines)
    return lines
  }
  for (const change of changes) {
    if (change.kind === 'price-list') linesNow(change.id).forgetLayout()
    if (change.kind !== 'price-line') continue
    const { before, after } = change
    if (before && after && before.list === after.list)
      linesNow(after.list).replace(before, after, onlyVariant(after, index))
    else {
      if (before) linesNow(before.list).remove(before)
      if (after) linesNow(after.list).insert(after, onlyVariant(after, index))
    }
  }
  if (itemsChanged) {
    for (const compiled of prepared.lists.values()) {
      if (compiled.layout.isVolatile) linesNow(compiled.list.id).forgetLayout()
    }
  }
  for (const [id, lines] of linesOf) {
    const list = next['price-list'].get(id)
    if (list) lists.set(id, lines.compile(list, next, index))
    else lists.delete(id)
    yield
  }
  return lists
}

/** Whether a change makes, removes or re-files items, so that they must be numbered anew. */
function movesItems(change: Change): boolean {
  if (change.kind !== 'product' && change.kind !== 'variant') return false
  if (change.before === null || change.after === null) return true
  if (change.kind === 'variant') {
    const filed = ({ product, family, options }: NonNullable<typeof change.before>) =>
      JSON.stringify([product, family, sorted(options)])
    return filed(change.before) !== filed(change.after)
  }
  const filed = ({ categories, family, attributes }: NonNullable<typeof change.before>) =>
    JSON.stringify([categories, family, sorted(attributes)])
  return filed(change.before) !== filed(change.after)
}

/** A record read back from a database may name the same values in another order. */
function sorted(values: Readonly<Record<string, string>>): readonly (readonly [string, string])[] {
  return Object.entries(values).sort(([left], [right]) => (left < right ? -1 : 1))
}

function numbersTouched(index: CatalogueIndex, change: Change): readonly number[] {
  if (change.kind === 'product') return index.numbersOfProduct.get(change.id) ?? []
  const number = change.kind === 'variant' ? index.numberOf.get(change.id) : undefined
  return number === undefined ? [] : [number]
}
