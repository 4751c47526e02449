import { depthOf, findCycle } from '../catalogue/category'
import { findNearest, type Issue, type IssueCode, type RecordKind } from '../issue/issue'
import { findReferenceCycle, listsReferredTo } from '../price/lines/price-references'
import { atOnce, eachInSteps, type Steps } from '../steps/steps'
import { dependantKey, findDependants, labelOf, referencesOf } from './references'
import { checkAccess } from './check-access'
import { checkDoubles } from './check-doubles'
import { checkLimits } from './check-limits'
import { checkPromotions } from './check-promotions'
import { checkTaxes } from './check-taxes'
import type { Change, RecordOfKind, Store } from './store'

type AnyRecord = RecordOfKind[RecordKind]

/** Levels of the catalogue's tree: far more than anybody can find their way in. */
const DEEPEST_CATEGORY = 50

/** How many dependants a refusal names before it only counts. */
const NAMED_DEPENDANTS = 5

/**
 * What is wrong with the store after a set of changes, as far as the changes are the reason: records
 * that speak of others that do not exist, codes taken twice, categories inside themselves, variants
 * whose options are not their product's, removals that leave others behind.
 */
export function checkChanges(next: Store, changes: readonly Change[]): readonly Issue[] {
  return atOnce(checkInSteps(next, changes))
}

/** `checkChanges` in steps. */
export function* checkInSteps(next: Store, changes: readonly Change[]): Steps<readonly Issue[]> {
  const owners = new CodeOwners(next)
  const dependants = yield* findDependants(
    next,
    changes.filter(({ after }) => after === null),
  )
  const issues: Issue[] = []
  yield* eachInSteps(changes, (change) => {
    if (change.after === null)
      issues.push(...checkRemoval(change, dependants.get(dependantKey(change)) ?? []))
    else issues.push(...checkRecord(next, owners, change.kind, change.after), ...checkAxes(next, change))
  })
  for (const check of [
    checkListReferences,
    checkDoubles,
    checkTaxes,
    checkAccess,
    checkLimits,
    checkPromotions,
  ]) {
    yield
    issues.push(...check(next, changes))
  }
  return issues
}

/** Lists that come to be computed from themselves, each circle named once. */
function checkListReferences(next: Store, changes: readonly Change[]): readonly Issue[] {
  const touched = new Set(
    changes.flatMap(({ kind, after }) => {
      if (after === null) return []
      if (kind === 'price-list') return refersToLists(after) ? [after.id] : []
      return kind === 'price-line' && refersToLists(after) ? [after.list] : []
    }),
  )
  if (touched.size === 0) return []
  const referredTo = referencesBetweenLists(next)
  const named = new Set<string>()
  const issues: Issue[] = []
  for (const id of touched) {
    const cycle = findReferenceCycle(id, (list) => referredTo.get(list) ?? [])
    if (!cycle || cycle.some((each) => named.has(each))) continue
    for (const each of cycle) named.add(each)
    const code = (list: string) => next['price-list'].get(list)?.code ?? list
    issues.push(issue('cycle', 'price-list', code(id), 'method', cycle.map(code).join(' › '), null))
  }
  return issues
}

function refersToLists(record: RecordOfKind['price-list'] | RecordOfKind['price-line']): boolean {
  const breaks = 'breaks' in record ? record : record.defaultLine
  return (
    breaks?.breaks.some(({ method }) => 'reference' in method && method.reference.kind === 'list') ?? false
  )
}

function referencesBetweenLists(store: Store): ReadonlyMap<string, ReadonlySet<string>> {
  const found = new Map<string, Set<string>>()
  const add = (list: string, records: Iterable<string>) => {
    const known = found.get(list)
    if (known) for (const each of records) known.add(each)
    else found.set(list, new Set(records))
  }
  for (const list of store['price-list'].values()) add(list.id, listsReferredTo(list, []))
  for (const line of store['price-line'].values()) {
    if (!refersToLists(line)) continue
    for (const { method } of line.breaks)
      if ('reference' in method && method.reference.kind === 'list') add(line.list, [method.reference.list])
  }
  return found
}

/** Which records go by a code, gathered once a kind so that a large import is not checked pair by pair. */
class CodeOwners {
  private readonly byKind = new Map<RecordKind, Map<string, string[]>>()

  constructor(private readonly store: Store) {}

  isTaken(kind: RecordKind, code: string): boolean {
    let owners = this.byKind.get(kind)
    if (!owners) {
      owners = new Map()
      for (const record of this.store[kind].values()) {
        const key = codeOf(kind, record)?.value.toLowerCase()
        if (key === undefined) continue
        const ids = owners.get(key)
        if (ids) ids.push(record.id)
        else owners.set(key, [record.id])
      }
      this.byKind.set(kind, owners)
    }
    return (owners.get(code.toLowerCase())?.length ?? 0) > 1
  }
}

function checkRemoval(change: Change, dependants: readonly string[]): readonly Issue[] {
  // Whatever is asked of a store is asked of its settings too.
  if (change.kind === 'settings') return [issue('missing', 'settings', 'settings', 'id', '', 'settings')]
  if (dependants.length === 0) return []
  const named = dependants.slice(0, NAMED_DEPENDANTS).join(', ')
  const more = dependants.length - NAMED_DEPENDANTS
  const label = change.before ? labelOf(change.kind, change.before) : change.id
  return [issue('in-use', change.kind, label, 'id', label, more > 0 ? `${named} and ${more} more` : named)]
}

function checkRecord(next: Store, owners: CodeOwners, kind: RecordKind, record: AnyRecord): readonly Issue[] {
  const label = labelOf(kind, record)
  const issues: Issue[] = []

  for (const reference of referencesOf(kind, record)) {
    if (next[reference.kind].has(reference.id)) continue
    issues.push(
      issue(
        'unknown',
        kind,
        label,
        reference.field,
        reference.id,
        findNearest(reference.id, [...next[reference.kind].keys()]),
      ),
    )
  }

  const code = codeOf(kind, record)
  if (code !== null && owners.isTaken(kind, code.value)) {
    issues.push(issue('duplicate', kind, label, code.field, code.value, null))
  }

  if (kind === 'category') {
    const cycle = findCycle(next.category, record.id)
    if (cycle) issues.push(issue('cycle', kind, label, 'parent', cycle.join(' › '), null))
    else if (depthOf(next.category, record.id) > DEEPEST_CATEGORY)
      issues.push(issue('too-deep', kind, label, 'parent', label, String(DEEPEST_CATEGORY)))
  }
  if (kind === 'variant') issues.push(...checkOptions(next, record as RecordOfKind['variant']))
  return issues
}

/** A product whose axes change must not leave variants behind that differ in something else. */
function checkAxes(next: Store, change: Change): readonly Issue[] {
  if (change.kind !== 'product' || change.before === null || change.after === null) return []
  if (change.before.axes.join('\n') === change.after.axes.join('\n')) return []
  return [...next.variant.values()]
    .filter((variant) => variant.product === change.id)
    .flatMap((variant) => checkOptions(next, variant))
}

function checkOptions(next: Store, variant: RecordOfKind['variant']): readonly Issue[] {
  const product = next.product.get(variant.product)
  if (!product) return []
  const axes = [...product.axes].sort()
  const options = Object.keys(variant.options).sort()
  if (axes.join('\n') === options.join('\n')) return []
  return [
    issue('not-in-axes', 'variant', variant.sku, 'options', options.join(', '), product.axes.join(', ')),
  ]
}

/** The name people know a record by, which no other of its kind may have. */
function codeOf(kind: RecordKind, record: AnyRecord): { field: string; value: string } | null {
  if (kind === 'settings' || kind === 'price-line' || kind === 'exchange-rate' || kind === 'tax-rate')
    return null
  if (kind === 'variant') return { field: 'sku', value: (record as RecordOfKind['variant']).sku }
  return { field: 'code', value: (record as RecordOfKind['product']).code }
}

function issue(
  code: IssueCode,
  kind: RecordKind,
  label: string,
  field: string,
  value: string,
  expected: string | null,
): Issue {
  return { code, kind, label, field, value, expected }
}
