import Decimal from 'decimal.js'

const Exact = Decimal.clone({ precision: 60, rounding: Decimal.ROUND_HALF_UP })

/** A promotion on goods, as plainly as can be; percents off, or the cheapest for nothing. */
export interface PlainPromotion {
  readonly code: string
  readonly rank: number
  readonly holds: (line: number) => boolean
  readonly value:
    | { readonly kind: 'item-price'; readonly percent: string; readonly closes: boolean }
    | { readonly kind: 'by-quantity'; readonly percent: string; readonly from: number }
    | { readonly kind: 'set'; readonly count: number; readonly percent: string }
    | { readonly kind: 'cheapest-free'; readonly count: number; readonly free: number }
    | { readonly kind: 'order'; readonly percent: string }
}

export interface PlainLine {
  readonly sku: string
  /** Whole units. */
  readonly units: number
  /** For one. */
  readonly price: string
}

interface Unit {
  readonly line: number
  readonly left: Decimal
  readonly takenBy: readonly PlainPromotion[]
}

/** To so many digits before anything is compared or rounded: parts that do not end are cut at sixty. */
const CLEAR = 30

function clear(value: Decimal): Decimal {
  return value.toDecimalPlaces(CLEAR, Decimal.ROUND_HALF_UP)
}

function toCents(value: Decimal): Decimal {
  return clear(value).toDecimalPlaces(2, Decimal.ROUND_HALF_UP)
}

/** What a promotion would take off some units, one amount for each. */
type Offer = ReadonlyMap<Unit, Decimal>

const PHASES = [['item-price'], ['by-quantity', 'set', 'cheapest-free'], ['order']]

/**
 * What each promotion saves, in hundredths of the currency, by code; those that save nothing are left out. Every unit is
 * looked at by itself, and everything is computed anew after each promotion: slow, and sure.
 */
export function referencePromotions(
  lines: readonly PlainLine[],
  promotions: readonly PlainPromotion[],
): ReadonlyMap<string, string> {
  let units: readonly Unit[] = lines.flatMap(({ units: count, price }, line) =>
    Array.from({ length: count }, (): Unit => ({ line, left: new Exact(price), takenBy: [] })),
  )
  const saved = new Map<string, string>()
  for (const kinds of PHASES) {
    const phase = promotions.filter(({ value }) => kinds.includes(value.kind))
    for (const rank of [...new Set(phase.map((each) => each.rank))].sort((one, other) => one - other)) {
      let open = phase.filter((each) => each.rank === rank)
      for (;;) {
        const best = bestOf(open, units, lines)
        if (!best) break
        saved.set(best.promotion.code, best.saving.toFixed(2))
        units = units.map((unit) => {
          const off = best.offer.get(unit)
          return off === undefined
            ? unit
            : { ...unit, left: unit.left.minus(off), takenBy: [...unit.takenBy, best.promotion] }
        })
        open = open.filter((each) => each !== best.promotion)
      }
    }
  }
  return saved
}

function bestOf(open: readonly PlainPromotion[], units: readonly Unit[], lines: readonly PlainLine[]) {
  const offers = open.map((promotion) => {
    const offer = offerOf(promotion, units, lines)
    const saving = toCents([...offer.values()].reduce((sum, off) => sum.plus(off), new Exact(0)))
    return { promotion, offer, saving }
  })
  return offers
    .filter(({ saving }) => saving.gt(0))
    .sort(
      (one, other) => other.saving.cmp(one.saving) || (one.promotion.code < other.promotion.code ? -1 : 1),
    )[0]
}

function offerOf(promotion: PlainPromotion, units: readonly Unit[], lines: readonly PlainLine[]): Offer {
  const { value } = promotion
  const skuOf = ({ line }: Unit) => (lines[line] as PlainLine).sku
  const free = units
    .filter((unit) => promotion.holds(unit.line) && isFree(unit, promotion))
    .sort((one, other) => clear(other.left).cmp(clear(one.left)) || (skuOf(one) < skuOf(other) ? -1 : 1))
  const share = (percent: string) => new Exact(percent).div(100)
  switch (value.kind) {
    case 'item-price':
      return new Map(
        free.flatMap((unit): readonly [Unit, Decimal][] => {
          const price = toCents(unit.left.times(new Exact(1).minus(share(value.percent))))
          return price.lt(unit.left) ? [[unit, unit.left.minus(price)]] : []
        }),
      )
    case 'by-quantity':
      return free.length < value.from
        ? new Map()
        : new Map(free.map((unit) => [unit, unit.left.times(share(value.percent))]))
    case 'set':
      return new Map(
        groups(free, value.count).flatMap((group) =>
          group.map((unit) => [unit, unit.left.times(share(value.percent))] as const),
        ),
      )
    case 'cheapest-free':
      return new Map(
        groups(free, value.count).flatMap((group) => {
          const sum = (some: readonly Unit[]) =>
            some.reduce((total, { left }) => total.plus(left), new Exact(0))
          const whole = sum(group)
          const given = sum(group.slice(group.length - value.free))
          // What a set saves belongs to all of its units, by what they cost.
          return group.map((unit) => [unit, whole.gt(0) ? given.times(unit.left).div(whole) : whole] as const)
        }),
      )
    case 'order':
      return new Map(free.map((unit) => [unit, unit.left.times(share(value.percent))]))
  }
}

/** Whole groups, the dearest units first. */
function groups(units: readonly Unit[], size: number): readonly (readonly Unit[])[] {
  return Array.from({ length: Math.floor(units.length / size) }, (_, at) =>
    units.slice(at * size, (at + 1) * size),
  )
}

function isFree({ takenBy }: Unit, { value }: PlainPromotion): boolean {
  return !takenBy.some((taker) =>
    value.kind === 'order'
      ? taker.value.kind === 'order'
      : taker.value.kind !== 'order' && (taker.value.kind !== 'item-price' || taker.value.closes),
  )
}
