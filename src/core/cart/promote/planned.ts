import { type Fraction, multiplyFractions } from '../../decimal/fraction'
import { fromUnits } from '../../engine/lists/price-step'
import { closedBy } from '../../promotions/closed-by'
import type { Promotion, PromotionValue } from '../../promotions/promotion'
import { type Basket, compareUnits, isOpen, type Segment, type Take } from './basket'
import type { Goods } from './goods'
import type { WhyNot } from './outcome'

/** Quantities have at most so many digits. */
const QUANTITY_DIGITS = 3

/** One or more units of a segment in a set. */
export interface SetUnits {
  readonly segment: number
  readonly part: number
  readonly count: number
  /** What one of them comes to. */
  readonly each: Fraction
}

/** Sets that are alike: so many times, of so many units each from these segments. */
export interface PlainSet {
  readonly times: number
  readonly units: readonly SetUnits[]
  /** What the units of one come to, exactly. */
  readonly amount: Fraction
}

/** The same with what one saves. */
export interface FormedSet extends PlainSet {
  /** What one saves, exactly. */
  readonly saving: Fraction
}

/** More of a variant for nothing. */
export interface Gift {
  readonly variant: string
  /** Whole units. */
  readonly count: number
}

/** What a promotion would do to a basket, exactly. */
export interface Plan {
  readonly takes: readonly Take[]
  /** One for each take. */
  readonly savings: readonly Fraction[]
  readonly uses: number
  readonly sets: readonly FormedSet[]
  readonly gifts: readonly Gift[]
}

export type Planned =
  { readonly ok: true; readonly plan: Plan } | { readonly ok: false; readonly because: WhyNot }

export type ValueOf<Kind extends PromotionValue['kind']> = Extract<PromotionValue, { readonly kind: Kind }>

/** A promotion's turn: what it stands before, and how often it may still be used. */
export interface Turn {
  readonly promotion: Promotion
  readonly basket: Basket
  readonly goods: Goods
  readonly usesLeft: number
}

/** Places in the basket a promotion may take units of, the dearest units first. */
export function openOf({ promotion, basket, goods }: Turn): readonly number[] {
  const takes = goods.of(promotion)
  const open: number[] = []
  for (let at = 0; at < basket.length; at += 1) {
    const segment = segmentAt(basket, at)
    if (takes[segment.line] && isOpen(segment, promotion)) open.push(at)
  }
  return open.sort((one, other) => {
    const [mine, theirs] = [segmentAt(basket, one), segmentAt(basket, other)]
    return compareUnits(theirs, mine) || goods.compareLines(mine.line, theirs.line)
  })
}

export function segmentAt(basket: Basket, at: number): Segment {
  return basket[at] as Segment
}

/** Why nothing is open to a promotion. */
export function whyNothingOpen({ promotion, basket, goods }: Turn): WhyNot {
  const held = goods.holds(promotion.scope)
  for (const { line, takenBy } of basket) {
    const by = held[line] ? closedBy(takenBy, promotion) : null
    if (by) return { code: 'used', by: by.id }
  }
  for (let line = 0; line < held.length; line += 1) {
    const contract = held[line] ? goods.protectedBy(line) : null
    if (contract) return { code: 'protected', contract }
  }
  return { code: 'not-for-cart' }
}

export function not(because: WhyNot): Planned {
  return { ok: false, because }
}

export function planned(
  takes: readonly Take[],
  savings: readonly Fraction[],
  more: Partial<Plan> = {},
): Planned {
  if (!savings.some(({ numerator }) => numerator > 0n) && !more.gifts?.length)
    return not({ code: 'saves-nothing' })
  // A fixed price each may be above what some units cost: these are left alone.
  const kept = takes.flatMap((take, at) => {
    const saving = savings[at] as Fraction
    return saving.numerator > 0n || more.gifts || more.sets ? [{ take, saving }] : []
  })
  return {
    ok: true,
    plan: {
      takes: kept.map(({ take }) => take),
      savings: kept.map(({ saving }) => saving),
      uses: 1,
      sets: [],
      gifts: [],
      ...more,
    },
  }
}

/** Units are missing: because there are too few, or because others have them. */
export function tooFew(turn: Turn, wanted: number, has: number): Planned {
  const inCart = placesNotTaken(turn).reduce((sum, at) => sum + segmentAt(turn.basket, at).quantity, 0)
  if (inCart >= wanted) return not(whyNothingOpen(turn))
  return not({ code: 'too-few', missing: fromUnits(wanted - has, QUANTITY_DIGITS) })
}

/** The part of a whole that falls to a share of what it is spread over. */
export function portion(whole: Fraction, share: Fraction, of: Fraction): Fraction {
  return multiplyFractions(whole, {
    numerator: share.numerator * of.denominator,
    denominator: share.denominator * of.numerator,
  })
}

/** Places with what a promotion is for, but for what it has itself already: others may have the rest. */
export function placesNotTaken({ promotion, basket, goods }: Turn): readonly number[] {
  const held = goods.of(promotion)
  return [...basket.keys()].filter((at) => {
    const { line, takenBy } = segmentAt(basket, at)
    return held[line] && !takenBy.includes(promotion)
  })
}
