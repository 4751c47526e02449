import type { Rights } from '../access/access'
import type { Steps } from '../steps/steps'
import { getSettings } from '../store/store'
import { type ItemPairs, type Places, roomFor } from './item-pairs'
import type { Standing } from './standing'
import { taxWord } from './tax-word'

/** What a class may do with an item, before and after. */
export interface MovedRights {
  readonly variant: string
  readonly before: Rights
  readonly after: Rights
}

/** Everything but prices that is another thing for a class, by the ids of variants. */
export interface MovedTerms {
  readonly rights: MovedRights[]
  readonly limits: string[]
  readonly taxes: string[]
}

const CELLS_A_STEP = 512
const NO_RIGHT: Rights = { see: false, seePrice: false, buy: false, quote: false }

/** What a class sees and may do; resolves to the places of what it sees on both sides. */
export function* compareTerms(
  pairs: ItemPairs,
  before: Standing | null,
  after: Standing | null,
  found: MovedTerms,
): Steps<Places> {
  const areAlike = before !== null && after !== null && haveSameTerms(before, after)
  const hasSameTaxes =
    before !== null &&
    after !== null &&
    taxWord(before.prepared, before.pricingContext) === taxWord(after.prepared, after.pricingContext)
  const { ids, same, others } = pairs
  const seen = roomFor(ids.length)
  let count = 0
  let at = 0
  // The same item under the same rules need not be asked about.
  const isFree = areAlike && before.isFree
  if (isFree && hasSameTaxes) {
    for (const place of same) seen[count++] = place
  }
  for (const place of isFree && !hasSameTaxes ? same : []) {
    if (at++ % CELLS_A_STEP === 0) yield
    seen[count++] = place
    if (before?.taxes(pairs.before[place] as number) !== after?.taxes(pairs.after[place] as number))
      found.taxes.push(ids[place] as string)
  }
  for (const [isSame, places] of [
    [areAlike, isFree ? [] : same],
    [false, others],
  ] as const)
    for (const place of places) {
      if (at++ % CELLS_A_STEP === 0) yield
      if (compareItem(pairs, place, { before, after, isSame, hasSameTaxes }, found)) seen[count++] = place
    }
  return seen.slice(0, count)
}

/** One item; tells whether it is seen on both sides. `isSame` where it is the same under the same rules. */
function compareItem(
  pairs: ItemPairs,
  place: number,
  sides: {
    readonly before: Standing | null
    readonly after: Standing | null
    readonly isSame: boolean
    readonly hasSameTaxes: boolean
  },
  found: MovedTerms,
): boolean {
  const { before, after, isSame, hasSameTaxes } = sides
  const variant = pairs.ids[place] as string
  const [then, now] = [pairs.before[place] as number, pairs.after[place] as number]
  const rights = {
    variant,
    before: before && then >= 0 ? before.rights(then) : NO_RIGHT,
    after: after && now >= 0 ? after.rights(now) : NO_RIGHT,
  }
  if (!haveSameRights(rights.before, rights.after)) found.rights.push(toMoved(rights))
  if (!rights.before.see || !rights.after.see || !before || !after) return false
  if (!isSame && before.limits(then) !== after.limits(now)) found.limits.push(variant)
  const isTaxedAlike = hasSameTaxes && before.taxClass(then) === after.taxClass(now)
  if (!isTaxedAlike && before.taxes(then) !== after.taxes(now)) found.taxes.push(variant)
  return true
}

/** Whether somebody is under the same access rules and limits on both sides, and none hangs on what lists hold. */
function haveSameTerms({ prepared, pricingContext: then }: Standing, after: Standing): boolean {
  const now = after.pricingContext
  const same = (left: readonly { readonly rule: unknown }[], right: readonly { readonly rule: unknown }[]) =>
    left.length === right.length && left.every(({ rule }, at) => rule === right[at]?.rule)
  return (
    prepared.store.category === after.prepared.store.category &&
    getSettings(prepared.store).taxClass === getSettings(after.prepared.store).taxClass &&
    same(then.terms.rules, now.terms.rules) &&
    same(then.terms.limits, now.terms.limits) &&
    then.terms.channel === now.terms.channel &&
    then.terms.passcode === now.terms.passcode &&
    then.buyer.signedIn === now.buyer.signedIn &&
    then.contracts.length === now.contracts.length &&
    then.contracts.every((contract, at) => contract === now.contracts[at]) &&
    then.exclusiveLists.length === 0 &&
    now.exclusiveLists.length === 0
  )
}

function toMoved({ variant, before, after }: MovedRights): MovedRights {
  const plain = ({ see, seePrice, buy, quote }: Rights): Rights => ({ see, seePrice, buy, quote })
  return { variant, before: plain(before), after: plain(after) }
}

function haveSameRights(left: Rights, right: Rights): boolean {
  return (
    left.see === right.see &&
    left.seePrice === right.seePrice &&
    left.buy === right.buy &&
    left.quote === right.quote
  )
}
