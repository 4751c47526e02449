import { type Decimal, subtract, sum } from '../decimal/decimal'
import { InputReader } from '../issue/input-reader'
import type { Parsed } from '../issue/issue'
import type { Product, Variant } from './product'

/** How many there are of what is counted, in units of sale. */
export interface StockLevel {
  /** On the shelf. */
  readonly onHand: Decimal
  /** Of these, promised to orders that have not been sent. Below zero is never; above what is on hand is on back order. */
  readonly reserved: Decimal
}

/** By id of the variant; of what is not in it nobody counts. */
export type StockLevels = ReadonlyMap<string, StockLevel>

/** What nobody counts. */
export const UNCOUNTED: StockLevels = new Map()

/** Why stock moved. */
export type MovementKind =
  /** What is on the shelf was counted, or is not counted any more. */
  | 'counted'
  /** A count was undone, or put right. */
  | 'corrected'
  /** Promised to an order. */
  | 'reserved'
  /** Promised to an order that was cancelled. */
  | 'released'
  /** Sent. */
  | 'sold'
  /** Taken back. */
  | 'returned'

/** What can still be promised; below zero where more has been than there is. */
export function availableOf({ onHand, reserved }: StockLevel): Decimal {
  return subtract(onHand, reserved)
}

/** How many can still be ordered of a variant; `null` where nobody counts. */
export function findAvailable(levels: StockLevels, variant: string): Decimal | null {
  const level = levels.get(variant)
  return level ? availableOf(level) : null
}

/** What is sold by weight is counted to the gram. */
const COUNT_DIGITS = 3

/**
 * A count as it is typed; `null` where nobody counts.
 *
 * Errors  no number, one below zero, or one with more than three digits behind the point.
 */
export function parseCount(sku: string, typed: string | null): Parsed<Decimal | null> {
  const reader = new InputReader('variant', sku)
  return reader.result(reader.optionalDecimal('stock', typed, { digits: COUNT_DIGITS, sign: 'not-negative' }))
}

/** Whether more of a variant may be ordered than there is, by its id; of what is gone nobody says that it may not. */
export function takesBackOrders(
  {
    product,
    variant,
  }: { readonly product: ReadonlyMap<string, Product>; readonly variant: ReadonlyMap<string, Variant> },
  id: string,
): boolean {
  return product.get(variant.get(id)?.product ?? '')?.backOrder !== false
}

/** How many are wanted of a variant, on however many lines. */
export function wantedOf(
  lines: readonly { readonly variant: string; readonly quantity: Decimal }[],
  variant: string,
): Decimal {
  return sum(lines.filter((line) => line.variant === variant).map(({ quantity }) => quantity))
}

/** Which are out of stock, once some are known anew; the same set where that changes nothing. */
export function withStates(
  outOfStock: ReadonlySet<string>,
  isOutOf: ReadonlyMap<string, boolean>,
): ReadonlySet<string> {
  if ([...isOutOf].every(([variant, isOut]) => outOfStock.has(variant) === isOut)) return outOfStock
  const next = new Set(outOfStock)
  for (const [variant, isOut] of isOutOf) {
    if (isOut) next.add(variant)
    else next.delete(variant)
  }
  return next
}
