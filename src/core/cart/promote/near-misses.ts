import { add, compare, type Decimal, decimal, subtract, ZERO } from '../../decimal/decimal'
import { factsOf } from '../../engine/items/catalogue-index'
import type { PreparedStore } from '../../engine/context/prepared-store'
import { matchWhat } from '../../predicates/what'
import type { Cart, CartQuestion, CartResult } from '../cart'
import { type WhyNot } from './outcome'
import { NO_FACTS } from '../../promotions/facts'

/** A promotion that a little more in the cart would bring about. */
export interface NearMiss {
  /** Id. */
  readonly promotion: string
  readonly missing:
    | { readonly kind: 'units'; readonly count: Decimal }
    /** In the buyer's currency. */
    | { readonly kind: 'value'; readonly amount: Decimal }
    | { readonly kind: 'weight'; readonly kilograms: Decimal }
  /** What it would save, or save more, with the units added that cost least, as it is shown; `null` where that is not known. */
  readonly saves: Decimal | null
}

/** How carts are priced, and how what a promotion saves in one is shown. */
interface Trying {
  readonly price: (prepared: PreparedStore, question: CartQuestion) => CartResult
  readonly savedIn: (cart: Cart, promotion: string) => Decimal
}

const MOST_TRIED = 10
const MOST_TOLD = 3

/**
 * The promotions the shop announces that nearly hold, or nearly form one more set, the one that would save most first: the smallest addition that
 * makes each of them hold, tried in the cart itself.
 */
export function findNearMisses(
  prepared: PreparedStore,
  question: CartQuestion,
  cart: Cart,
  { price, savedIn }: Trying,
): readonly NearMiss[] {
  const misses = cart.promotions.idle.flatMap(({ promotion, because }): readonly NearMiss[] => {
    const missing = missingOf(because)
    const isAnnounced = prepared.store.promotion.get(promotion)?.isAnnounced === true
    return missing && isAnnounced ? [{ promotion, missing, saves: null }] : []
  })
  const more = cart.promotions.applied.flatMap(({ promotion, missing }): readonly NearMiss[] => {
    const isAnnounced = prepared.store.promotion.get(promotion)?.isAnnounced === true
    return missing && isAnnounced
      ? [{ promotion, missing: { kind: 'units', count: missing }, saves: null }]
      : []
  })
  return [...misses, ...more]
    .slice(0, MOST_TRIED)
    .map((miss) =>
      miss.missing.kind === 'units' ? tried(prepared, question, cart, miss, { price, savedIn }) : miss,
    )
    .filter((miss): miss is NearMiss => miss !== null)
    .sort((one, other) => compare(other.saves ?? decimal(0), one.saves ?? decimal(0)))
    .slice(0, MOST_TOLD)
}

function missingOf(because: WhyNot): NearMiss['missing'] | null {
  if (because.code === 'too-few') return { kind: 'units', count: because.missing }
  if (because.code === 'too-little') return { kind: 'value', amount: because.missing }
  if (because.code !== 'condition' || because.missing === null) return null
  const { condition, missing } = because
  if (condition.kind === 'quantity') return { kind: 'units', count: missing }
  if (condition.kind === 'value') return { kind: 'value', amount: missing }
  return condition.kind === 'weight' ? { kind: 'weight', kilograms: missing } : null
}

/** With so many more of the line that costs least; `null` where that does not make it hold after all. */
function tried(
  prepared: PreparedStore,
  question: CartQuestion,
  cart: Cart,
  miss: NearMiss,
  { price, savedIn }: Trying,
): NearMiss | null {
  const { store, index } = prepared
  const scope = store.promotion.get(miss.promotion)?.scope
  if (!scope || miss.missing.kind !== 'units') return null
  const { count } = miss.missing
  let cheapest = -1
  question.lines.forEach(({ variant }, at) => {
    const unit = cart.lines[at]?.unit ?? null
    const facts = factsOf(store, index, index.numberOf.get(variant) as number)
    if (unit === null || cart.lines[at]?.access.buy !== true || !matchWhat(scope, facts).matches) return
    if (cheapest < 0 || compare(unit, cart.lines[cheapest]?.unit as Decimal) < 0) cheapest = at
  })
  if (cheapest < 0) return null
  const lines = question.lines.map((line, at) =>
    at === cheapest ? { ...line, quantity: add(line.quantity, count) } : line,
  )
  // What waits to be taken is worth what it would save.
  const choices = { ...question.promotions?.choices, [miss.promotion]: 'taken' as const }
  const promotions = { ...(question.promotions ?? NO_FACTS), choices }
  const more = price(prepared, { ...question, lines, promotions })
  const applied = more.ok
    ? more.value.promotions.applied.find(({ promotion }) => promotion === miss.promotion)
    : undefined
  if (!more.ok || !applied) return null
  const saves = subtract(savedIn(more.value, miss.promotion), savedIn(cart, miss.promotion))
  return compare(saves, ZERO) > 0 ? { ...miss, saves } : null
}
