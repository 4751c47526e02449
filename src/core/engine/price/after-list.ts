/**
 * What happens to a price after its list gave it, in this order: adjustments of the price shown, never above what guests pay,
 * never below the floor. The lookup of one price, columns and the explanation each do it in a way of their own, and judge each
 * other; what comes first is said here alone. Promotions come after all of these.
 */
export const AFTER_LIST = ['shown-adjustments', 'public-price', 'floor'] as const
export type AfterList = (typeof AFTER_LIST)[number]
