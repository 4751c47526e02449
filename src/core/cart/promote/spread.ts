import { shareOut } from '../../decimal/allocate'
import { compare, type Decimal, subtract, sum, ZERO } from '../../decimal/decimal'
import {
  type Fraction,
  multiplyFractions,
  subtractFractions,
  sumFractions,
  toFraction,
} from '../../decimal/fraction'
import { roundPrice, roundToDigits } from '../../decimal/rounding'
import type { Promotion } from '../../promotions/promotion'
import { type Basket, type Segment, shareOf } from './basket'
import type { Goods } from './goods'
import type { Plan } from './planned'

/** A saving in what can be paid: rounded once as a whole, and spread over the units it took. */
export interface Spread {
  /** One for each take. */
  readonly shares: readonly Decimal[]
  /** The same before it was rounded, so that what others save does not hang on who got the odd cent. */
  readonly exacts: readonly Fraction[]
  readonly saving: Decimal
  /** How much less it saves because of floors. */
  readonly capped: Decimal
}

/**
 * Rounds a planned saving and spreads it over its takes by what each of them saves.
 *
 * Units   `leftOn` is what is still to be paid on each line.
 * Holds   the shares add up to the saving; none is more than is left to pay, nor leads below the floor.
 * Source  largest remainders, as in `allocate`.
 */
export function spread(
  promotion: Promotion,
  plan: Plan,
  basket: Basket,
  goods: Goods,
  leftOn: readonly Decimal[],
): Spread {
  const { digits } = goods
  const exacts = scaledTo(roundedTotal(promotion, plan.savings, digits), plan.savings)
  const wished = exacts.length === 0 ? [] : shareOut(exacts, digits)
  const left = [...leftOn]
  const shares = wished.map((share, at) => {
    const { segment, quantity } = plan.takes[at] as Plan['takes'][number]
    const { line } = basket[segment] as Segment
    const most = least(mostOff(basket[segment] as Segment, quantity, goods), left[line] ?? ZERO)
    const own = least(share, most)
    left[line] = subtract(left[line] ?? ZERO, own)
    return own
  })
  const saving = sum(shares)
  return {
    shares,
    exacts: shares.map((share, at) => (share === wished[at] ? (exacts[at] as Fraction) : toFraction(share))),
    saving,
    capped: subtract(sum(wished), saving),
  }
}

/** The whole as the promotion rounds it; `null` leaves it to the smallest unit. Units are rounded one by one already. */
function roundedTotal(
  { rounding, value }: Promotion,
  savings: readonly Fraction[],
  digits: number,
): Decimal | null {
  if (!rounding || value.kind === 'item-price') return null
  const whole = sumFractions(savings)
  const rounded = roundPrice(whole, rounding)
  return compare(rounded, ZERO) > 0 ? roundToDigits(toFraction(rounded), digits, 'half-up') : null
}

function scaledTo(total: Decimal | null, savings: readonly Fraction[]): readonly Fraction[] {
  if (total === null) return savings
  const whole = sumFractions(savings)
  if (whole.numerator <= 0n) return savings
  const wanted = toFraction(total)
  return savings.map((saving) =>
    multiplyFractions(saving, {
      numerator: wanted.numerator * whole.denominator,
      denominator: wanted.denominator * whole.numerator,
    }),
  )
}

/** The most that may be taken off some units; of part of a line the last of its smallest units, too. */
function mostOff(segment: Segment, quantity: number, goods: Goods): Decimal {
  const left = shareOf(segment, quantity)
  const floor = goods.floorOf(segment.line, quantity)
  if (!floor) return roundToDigits(left, goods.digits, 'up')
  const above = subtractFractions(left, floor)
  return above.numerator <= 0n ? ZERO : roundToDigits(above, goods.digits, 'down')
}

function least(one: Decimal, other: Decimal): Decimal {
  return compare(one, other) <= 0 ? one : other
}
