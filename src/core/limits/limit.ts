import { compare, type Decimal, fromDigits, powerOfTen, toDigits, ZERO } from '../decimal/decimal'
import type { Rule } from '../rules/rule'

/** A quantity that may be bought, with what it is called: "12 per case". */
export interface AllowedQuantity {
  readonly quantity: Decimal
  /** Empty where the number says it all. */
  readonly label: string
}

/** How many of something may be bought; `null` where a field is not set. */
export interface QuantityLimits {
  readonly minimum: Decimal | null
  readonly maximum: Decimal | null
  /** Only whole multiples of it. */
  readonly multiple: Decimal | null
  /** What the quantity field starts with. */
  readonly first: Decimal | null
  /** Only these quantities, rising. */
  readonly values: readonly AllowedQuantity[] | null
}

export type LimitField = keyof QuantityLimits

export const LIMIT_FIELDS: readonly LimitField[] = ['minimum', 'maximum', 'multiple', 'first', 'values']

export const NO_LIMITS: QuantityLimits = {
  minimum: null,
  maximum: null,
  multiple: null,
  first: null,
  values: null,
}

/** What a limit of a whole order, or of everything in a scope together, may say beside a quantity. */
export interface TotalLimits {
  /** In the store's currency, without tax. */
  readonly minimumValue: Decimal | null
  readonly maximumValue: Decimal | null
  /** Kilograms. */
  readonly minimumWeight: Decimal | null
  readonly maximumWeight: Decimal | null
}

/** A rule that limits what some buyers buy of some things. */
export interface LimitRule extends Rule, QuantityLimits, TotalLimits {
  /** Whether it counts each variant, all variants of a product, or everything in its scope together. */
  readonly counting: 'each' | 'product' | 'together'
  /** The maximum counts what the buyer has ordered in so many days too; `null` looks at this order only. */
  readonly days: number | null
  /** What buyers read where it stands in their way; empty for a sentence made of its figures. */
  readonly message: string
}

/** The limits of several levels, the one that says most first: field by field the first that sets it counts. */
export function mergeLimits(levels: readonly QuantityLimits[]): QuantityLimits {
  return {
    minimum: firstOf(levels, 'minimum'),
    maximum: firstOf(levels, 'maximum'),
    multiple: firstOf(levels, 'multiple'),
    first: firstOf(levels, 'first'),
    values: firstOf(levels, 'values'),
  }
}

function firstOf<Field extends LimitField>(
  levels: readonly QuantityLimits[],
  field: Field,
): QuantityLimits[Field] | null {
  for (const level of levels) if (level[field] !== null) return level[field]
  return null
}

/**
 * Whether a field of one level is stricter than another's: more at least, less at most, a larger multiple, fewer values
 * to choose from. What a quantity starts with is no limit.
 */
export function isStricter(field: LimitField, limits: QuantityLimits, than: QuantityLimits): boolean {
  if (field === 'first') return false
  if (field === 'values') {
    const [mine, theirs] = [limits.values, than.values]
    return mine !== null && theirs !== null && mine.length < theirs.length
  }
  const [mine, theirs] = [limits[field], than[field]]
  if (mine === null || theirs === null) return false
  return field === 'maximum' ? compare(mine, theirs) < 0 : compare(mine, theirs) > 0
}

/** The limits of goods that are sold in whole pieces. */
export function inWholePieces(limits: QuantityLimits): QuantityLimits {
  const multiple = limits.multiple === null ? ONE_PIECE : thousandths(limits.multiple)
  const whole = (multiple * ONE_PIECE) / commonDivisor(multiple, ONE_PIECE)
  return { ...limits, multiple: fromDigits({ coefficient: whole, scale: QUANTITY_DIGITS }) }
}

function commonDivisor(left: bigint, right: bigint): bigint {
  let [a, b] = [left, right]
  while (b !== 0n) [a, b] = [b, a % b]
  return a
}

/** Whether a rule is for everything, so that it counts the whole of an order. */
export function isForEverything({ scope }: Pick<LimitRule, 'scope'>): boolean {
  return scope.exclude.length === 0 && scope.include.some(({ kind }) => kind === 'everything')
}

/** Quantities have at most three digits; thousandths are whole numbers. */
const QUANTITY_DIGITS = 3
const ONE_PIECE = 1000n

export function thousandths(quantity: Decimal): bigint {
  const { coefficient, scale } = toDigits(quantity)
  return coefficient * powerOfTen(QUANTITY_DIGITS - scale)
}

/** Why limits cannot be met by any quantity, or are not what they seem; `null` when they can. */
export function findContradiction({
  minimum,
  maximum,
  multiple,
  values,
}: QuantityLimits):
  | { readonly code: 'min-above-max'; readonly value: Decimal; readonly limit: Decimal }
  | { readonly code: 'min-not-multiple'; readonly value: Decimal; readonly multiple: Decimal }
  | { readonly code: 'max-below-multiple'; readonly value: Decimal; readonly multiple: Decimal }
  | { readonly code: 'no-value-allowed'; readonly value: Decimal }
  | null {
  if (minimum !== null && maximum !== null && compare(minimum, maximum) > 0)
    return { code: 'min-above-max', value: minimum, limit: maximum }
  if (multiple !== null && maximum !== null && compare(maximum, multiple) < 0)
    return { code: 'max-below-multiple', value: maximum, multiple }
  if (multiple !== null && minimum !== null && minimum !== ZERO && !isMultiple(minimum, multiple))
    return { code: 'min-not-multiple', value: minimum, multiple }
  const refused = values?.find(({ quantity }) => !isWithin(quantity, { minimum, maximum, multiple }))
  return values &&
    refused &&
    values.every(({ quantity }) => !isWithin(quantity, { minimum, maximum, multiple }))
    ? { code: 'no-value-allowed', value: refused.quantity }
    : null
}

export function isMultiple(quantity: Decimal, multiple: Decimal): boolean {
  return thousandths(quantity) % thousandths(multiple) === 0n
}

export function isWithin(
  quantity: Decimal,
  { minimum, maximum, multiple }: Pick<QuantityLimits, 'minimum' | 'maximum' | 'multiple'>,
): boolean {
  if (minimum !== null && compare(quantity, minimum) < 0) return false
  if (maximum !== null && compare(quantity, maximum) > 0) return false
  return multiple === null || isMultiple(quantity, multiple)
}
