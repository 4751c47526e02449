import type { PreparedStore } from '../engine/context/prepared-store'
import type { LadderEntry, PricingContext } from '../engine/context/pricing-context'
import { isFiledOnly, scopeMatcher } from '../engine/items/scope-matcher'
import type { RecordKind } from '../issue/issue'
import { sharedMemory } from '../maps/shared-memory'
import { eachInSteps, type Steps } from '../steps/steps'
import { touchedFields } from '../store/rebase'
import type { Change, RecordOfKind } from '../store/store'
import { taxWord } from './tax-word'

/** Fields nothing is computed from: a change of these alone reaches nobody. */
const WORDS: ReadonlySet<string> = new Set([
  'name',
  'description',
  'picture',
  'message',
  'landing',
  'shopHeadline',
  'shopColour',
  'shopContact',
  'netWords',
  'grossWords',
  'paymentTerms',
])

/** Kinds whose records decide for whom, and for what, in a way that is not told apart further here. */
const REACHES_ALL: ReadonlySet<RecordKind> = new Set([
  'settings',
  'currency',
  'exchange-rate',
  'channel',
  'region',
  'tax-class',
  'tax',
  'tax-rate',
  'category',
  'price-family',
])

/** Kinds whose records say nothing of who gets what: who is in which class, and from which lists they pay, stays as it is. */
const LEAVE_STANDINGS: ReadonlySet<RecordKind> = new Set(['price-line', 'variant', 'product'])

/** Whatever could differ between two stores, as far as their changes can tell. */
export interface Reach {
  /** Anybody's price or right of anything may be another one. */
  readonly isEverything: boolean
  /** Nobody stands anywhere else: only what is reached can differ, and for whom is as before. */
  readonly leavesStandings: boolean
  /** Goods may come to be taxed otherwise. */
  readonly mindsTaxes: boolean
  /** Ids of variants whose own records, or whose product's, are others. */
  readonly variants: ReadonlySet<string>
  /** Ids of variants that a changed line reaches or reached, by the list it is in. */
  readonly byList: ReadonlyMap<string, ReadonlySet<string>>
}

/** What changes from one store to another can reach. */
export function* reachOfChanges(
  before: PreparedStore,
  after: PreparedStore,
  changes: readonly Change[],
): Steps<Reach> {
  // What is wanted to stay true changes nothing for anybody.
  const counting = changes.filter(
    (change) => change.kind !== 'proof' && touchedFields(change).some((field) => !WORDS.has(field)),
  )
  const isEverything = counting.some(({ kind }) => REACHES_ALL.has(kind))
  const mindsTaxes = isEverything || counting.some((change) => touchedFields(change).includes('taxClass'))
  const variants = new Set<string>()
  const byList = new Map<string, Set<string>>()
  const leavesStandings = counting.every(({ kind }) => LEAVE_STANDINGS.has(kind))
  if (isEverything) return { isEverything, leavesStandings, mindsTaxes, variants, byList }
  for (const change of counting) {
    if (change.kind === 'variant') variants.add(change.id)
    if (change.kind === 'product')
      for (const { index } of [before, after])
        for (const number of index.numbersOfProduct.get(change.id) ?? [])
          variants.add(index.items[number] as string)
    if (change.kind !== 'price-line') continue
    yield
    for (const [prepared, line] of [
      [before, change.before],
      [after, change.after],
    ] as const)
      if (line) yield* gatherItems(prepared, line, ofList(byList, line.list))
  }
  return { isEverything, leavesStandings, mindsTaxes, variants, byList }
}

function ofList(byList: Map<string, Set<string>>, list: string): Set<string> {
  const known = byList.get(list) ?? new Set()
  byList.set(list, known)
  return known
}

function* gatherItems(
  prepared: PreparedStore,
  line: RecordOfKind['price-line'],
  into: Set<string>,
): Steps<void> {
  const { index } = prepared
  const { include, exclude } = line.scope
  const [only] = include
  if (include.length === 1 && exclude.length === 0 && only?.kind === 'variant')
    return void into.add(only.variant)
  const holds = scopeMatcher(prepared, line.scope)
  if (isFiledOnly(line.scope)) {
    const { signatureStarts, variantSignatures, items } = index
    for (let signature = 0; signature < variantSignatures; signature += 1) {
      const [from, to] = [signatureStarts[signature] as number, signatureStarts[signature + 1] as number]
      if (from === to || !holds(from)) continue
      for (let number = from; number < to; number += 1) into.add(items[number] as string)
      yield
    }
    return
  }
  yield* eachInSteps(Array(index.variantCount).keys(), (number) => {
    if (holds(number)) into.add(index.items[number] as string)
  })
}

const BEHIND = sharedMemory(
  'lists-behind',
  () => new WeakMap<PreparedStore, WeakMap<PricingContext, ReadonlySet<string>>>(),
)

/** Every list a buyer's prices are computed from, those that others start from too; kept as long as both. */
export function listsBehind(prepared: PreparedStore, pricingContext: PricingContext): ReadonlySet<string> {
  const known = BEHIND.get(prepared) ?? new WeakMap<PricingContext, ReadonlySet<string>>()
  BEHIND.set(prepared, known)
  const kept = known.get(pricingContext)
  if (kept) return kept
  const found = findListsBehind(prepared, pricingContext)
  known.set(pricingContext, found)
  return found
}

function findListsBehind(
  prepared: PreparedStore,
  { ladder, publicPricingContext }: PricingContext,
): ReadonlySet<string> {
  const found = new Set<string>()
  const add = (id: string) => {
    if (found.has(id)) return
    found.add(id)
    for (const next of prepared.lists.get(id)?.referredTo ?? []) add(next)
  }
  for (const step of ladder) for (const { compiled } of step) add(compiled.list.id)
  if (publicPricingContext) for (const id of listsBehind(prepared, publicPricingContext)) found.add(id)
  return found
}

/**
 * Whether somebody stands the same in two stores, but for lines of price lists and for what is said of single items: then
 * nothing moves for them but what these reach.
 */
export function standsAlike(
  [before, then]: readonly [PreparedStore, PricingContext],
  [after, now]: readonly [PreparedStore, PricingContext],
): boolean {
  return (
    then.key === now.key &&
    then.currency === now.currency &&
    then.policy === now.policy &&
    areSame(then.shown, now.shown) &&
    areSame(then.currencyView.adjustments, now.currencyView.adjustments) &&
    areAlike(then.ladder.flat(), now.ladder.flat(), sameEntry) &&
    haveSameLists([before, then], [after, now]) &&
    areSame(
      then.terms.rules.map(({ rule }) => rule),
      now.terms.rules.map(({ rule }) => rule),
    ) &&
    areSame(
      then.terms.limits.map(({ rule }) => rule),
      now.terms.limits.map(({ rule }) => rule),
    ) &&
    areSame(then.contracts, now.contracts) &&
    then.terms.channel === now.terms.channel &&
    then.terms.passcode === now.terms.passcode &&
    taxWord(before, then) === taxWord(after, now) &&
    then.buyer.signedIn === now.buyer.signedIn &&
    (then.publicPricingContext === null || now.publicPricingContext === null
      ? then.publicPricingContext === now.publicPricingContext
      : standsAlike([before, then.publicPricingContext], [after, now.publicPricingContext]))
  )
}

function sameEntry(left: LadderEntry, right: LadderEntry): boolean {
  return (
    left.compiled.list === right.compiled.list &&
    left.contract === right.contract &&
    left.rung === right.rung &&
    left.isForeign === right.isForeign &&
    left.rank.join() === right.rank.join()
  )
}

/** Whether the lists that others start from are the same records, too. */
function haveSameLists(
  [before, then]: readonly [PreparedStore, PricingContext],
  [after, now]: readonly [PreparedStore, PricingContext],
): boolean {
  const ids = [...listsBehind(after, now)]
  return (
    ids.length === listsBehind(before, then).size &&
    ids.every((id) => before.lists.get(id)?.list === after.lists.get(id)?.list)
  )
}

function areSame(left: readonly unknown[], right: readonly unknown[]): boolean {
  return areAlike(left, right, (mine, theirs) => mine === theirs)
}

function areAlike<Thing>(
  left: readonly Thing[],
  right: readonly Thing[],
  alike: (mine: Thing, theirs: Thing) => boolean,
): boolean {
  return left.length === right.length && left.every((each, at) => alike(each, right[at] as Thing))
}
