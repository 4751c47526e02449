import type { Promotion } from './promotion'

/**
 * The promotion that keeps another off what it has taken; `null` when none does. Those on the whole order look at the
 * cart after all others, and only stand in each other's way.
 */
export function closedBy(takenBy: readonly Promotion[], promotion: Promotion): Promotion | null {
  return (
    takenBy.find(
      (taker) =>
        taker.id === promotion.id ||
        (closes(taker) && isOnOrder(taker) === isOnOrder(promotion) && !combine(taker, promotion)),
    ) ?? null
  )
}

function isOnOrder({ value }: Promotion): boolean {
  return value.kind === 'order'
}

function closes({ value }: Promotion): boolean {
  return value.kind !== 'item-price' || value.closes
}

function combine(one: Promotion, other: Promotion): boolean {
  return one.combines !== '' && one.combines === other.combines
}
