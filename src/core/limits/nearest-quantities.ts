import { compare, type Decimal, fromDigits } from '../decimal/decimal'
import { isWithin, type QuantityLimits, thousandths } from './limit'

/** The nearest quantities that are right: the one not above and the one not below what was asked; `null` where none. */
export interface Nearest {
  readonly below: Decimal | null
  readonly above: Decimal | null
}

export function isAllowed(quantity: Decimal, limits: QuantityLimits): boolean {
  if (limits.values && !limits.values.some((value) => compare(value.quantity, quantity) === 0)) return false
  return isWithin(quantity, limits)
}

/** Nothing is right where the limits contradict each other: both are `null`. */
export function nearestQuantities(quantity: Decimal, limits: QuantityLimits): Nearest {
  if (limits.values) {
    const allowed = limits.values.map((value) => value.quantity).filter((value) => isWithin(value, limits))
    return {
      below: allowed.findLast((value) => compare(value, quantity) <= 0) ?? null,
      above: allowed.find((value) => compare(value, quantity) >= 0) ?? null,
    }
  }
  // Without a multiple whatever lies between is right, so what was asked is its own neighbour.
  const step = limits.multiple === null ? 1n : thousandths(limits.multiple)
  const asked = thousandths(quantity)
  const least = limits.minimum === null ? step : roundUp(thousandths(limits.minimum), step)
  const lowest = least <= 0n ? step : least
  const highest = limits.maximum === null ? null : (thousandths(limits.maximum) / step) * step
  if (highest !== null && highest < lowest) return { below: null, above: null }
  const down = (asked / step) * step
  const up = roundUp(asked, step)
  const below = highest !== null && down > highest ? highest : down
  const above = up < lowest ? lowest : up
  return {
    below: below < lowest ? null : inPieces(below),
    above: highest !== null && above > highest ? null : inPieces(above),
  }
}

/** What the quantity field starts with: as set, else the least that is right. */
export function firstQuantity(limits: QuantityLimits, usual: Decimal): Decimal {
  const wanted = limits.first ?? usual
  if (isAllowed(wanted, limits)) return wanted
  const { below, above } = nearestQuantities(wanted, limits)
  return above ?? below ?? wanted
}

function roundUp(value: bigint, step: bigint): bigint {
  return ((value + step - 1n) / step) * step
}

function inPieces(units: bigint): Decimal {
  return fromDigits({ coefficient: units, scale: 3 })
}
