import { add, type Decimal, isPositive, subtract } from '../decimal/decimal'

/**
 * What stock becomes when somebody moves it from what they saw to what they want, and it is something else by now: what
 * was sold meanwhile stays sold.
 *
 * Units  pieces; `null` where nobody counts. Where any of the three is not counted, what is wanted counts as it is.
 */
export function moveStock(now: Decimal | null, seen: Decimal | null, wanted: Decimal | null): Decimal | null {
  return now === null || seen === null || wanted === null ? wanted : add(now, subtract(wanted, seen))
}

/** Whether there is any of it; what nobody counts is in stock. */
export function isInStock({ stock }: { readonly stock: Decimal | null }): boolean {
  return stock === null || isPositive(stock)
}
