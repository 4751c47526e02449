import type { FoundPrice } from './found-price'
import type { LadderIndex } from '../lists/ladder-index'

/** A power of two. */
const PLACES = 16_384

/**
 * Prices found lately, so that who asks again for what is on the pages people look at is answered without looking.
 * Each has one place, taken over by whatever comes to it next: it never grows and nothing has to be put in order.
 * Belongs to one prepared store, and so never outlives a change.
 */
export class PriceMemory {
  private readonly reaches: (LadderIndex | undefined)[] = new Array(PLACES).fill(undefined)
  private readonly numbers = new Int32Array(PLACES)
  private readonly quantities = new Float64Array(PLACES)
  private readonly found: (FoundPrice | undefined)[] = new Array(PLACES).fill(undefined)

  recall(reach: LadderIndex, number: number, quantity: number): FoundPrice | null {
    const at = placeOf(reach, number)
    if (this.reaches[at] !== reach || this.numbers[at] !== number || this.quantities[at] !== quantity)
      return null
    return this.found[at] as FoundPrice
  }

  keep(reach: LadderIndex, number: number, quantity: number, found: FoundPrice): FoundPrice {
    const at = placeOf(reach, number)
    this.reaches[at] = reach
    this.numbers[at] = number
    this.quantities[at] = quantity
    this.found[at] = found
    return found
  }
}

/** Neighbouring items of one buyer lie beside each other, buyers far apart. */
function placeOf({ ordinal }: LadderIndex, number: number): number {
  return (number + ordinal * 1021) & (PLACES - 1)
}
