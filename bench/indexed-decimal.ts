import { distancesUp } from '@/core/catalogue/category'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { PriceLine, PriceList } from '@/core/price/lines/price-list'
import type { Breaks, PriceMethod } from '@/core/price/lines/price-method'
import type { Store } from '@/core/store/store'
import Decimal from 'decimal.js'

/**
 * What a careful programmer would write without an engine: lines indexed by list and what they are for, the
 * buyer's lists in order, exact decimals. It knows the methods and roundings of the generated store.
 */
const Exact = Decimal.clone({ precision: 40 })

interface IndexedList {
  readonly list: PriceList
  readonly byTarget: ReadonlyMap<string, readonly PriceLine[]>
  readonly from: number
  readonly to: number
}

export class IndexedDecimal {
  private readonly lists: readonly IndexedList[]
  private readonly categories = new Map<string, readonly (readonly [string, number])[]>()
  private readonly ladders = new Map<string, readonly (readonly IndexedList[])[]>()

  constructor(
    private readonly store: Store,
    private readonly at: number,
  ) {
    const lines = new Map<string, Map<string, PriceLine[]>>()
    for (const line of store['price-line'].values()) {
      const byTarget = lines.get(line.list) ?? new Map<string, PriceLine[]>()
      lines.set(line.list, byTarget)
      const [term] = line.scope.include
      const target =
        term?.kind === 'variant'
          ? term.variant
          : term?.kind === 'product'
            ? term.product
            : term?.kind === 'category'
              ? term.category
              : ''
      byTarget.set(target, [...(byTarget.get(target) ?? []), line])
    }
    const instant = (text: string | null, open: number) => (text === null ? open : Date.parse(`${text}Z`))
    this.lists = [...store['price-list'].values()].map((list) => ({
      list,
      byTarget: lines.get(list.id) ?? new Map(),
      from: instant(list.schedule.from, Number.NEGATIVE_INFINITY),
      to: instant(list.schedule.to, Number.POSITIVE_INFINITY),
    }))
    for (const product of store.product.values())
      this.categories.set(product.id, [...distancesUp(store.category, product.categories)])
  }

  /** Cents; `null` without a price. */
  price(account: string, variantId: string, quantity: number): number | null {
    const variant = this.store.variant.get(variantId)!
    const product = this.store.product.get(variant.product)!
    const base = new Exact((variant.basePrice ?? product.basePrice) as string)
    for (const step of this.ladder(account)) {
      let best: { price: Decimal; level: number } | null = null
      for (const indexed of step) {
        const found = this.inList(indexed, variantId, product.id, base, quantity)
        if (found && (!best || found.level > best.level)) best = found
      }
      if (best) return best.price.times(100).toNumber()
    }
    return base.times(100).toNumber()
  }

  private ladder(account: string): readonly (readonly IndexedList[])[] {
    const known = this.ladders.get(account)
    if (known) return known
    const groups = this.store.account.get(account)?.groups ?? []
    const rungOf = ({ list }: IndexedList) => {
      const [term] = list.audience.include
      if (term?.kind === 'account') return term.account === account ? 0 : -1
      if (term?.kind === 'group') return groups.includes(term.group) ? 1 : -1
      return 2
    }
    const mine = this.lists
      .filter((each) => rungOf(each) >= 0 && each.from <= this.at && this.at < each.to)
      .sort(
        (a, b) =>
          rungOf(a) - rungOf(b) ||
          a.list.rank - b.list.rank ||
          (a.from === b.from ? 0 : b.from - a.from) ||
          (a.list.code < b.list.code ? -1 : 1),
      )
    const steps: IndexedList[][] = []
    for (const each of mine) {
      const last = steps.at(-1)
      if (last && rungOf(last[0]!) === rungOf(each) && last[0]!.list.rank === each.list.rank) last.push(each)
      else steps.push([each])
    }
    this.ladders.set(account, steps)
    return steps
  }

  private inList(
    { list, byTarget }: IndexedList,
    variant: string,
    product: string,
    base: Decimal,
    quantity: number,
  ) {
    const rows: (readonly [number, PriceLine])[] = []
    for (const line of byTarget.get(variant) ?? []) rows.push([4000, line])
    for (const line of byTarget.get(product) ?? []) rows.push([3000, line])
    for (const [category, distance] of this.categories.get(product) ?? [])
      for (const line of byTarget.get(category) ?? []) rows.push([1000 - distance, line])
    rows.sort((a, b) => b[0] - a[0] || a[1].position - b[1].position)
    for (const [level, line] of rows) {
      const price = priceOf(line, line.rounding ?? list.rounding, base, quantity)
      if (price) return { price, level }
    }
    const price = list.defaultLine && priceOf(list.defaultLine, list.rounding, base, quantity)
    return price ? { price, level: -1 } : null
  }
}

function priceOf(
  { breaks }: Breaks,
  rule: RoundingRule | null,
  base: Decimal,
  quantity: number,
): Decimal | null {
  const reached = breaks.filter(({ from }) => Number(from) <= quantity).at(-1)
  if (!reached) return null
  const exact = applied(reached.method, base)
  if (exact.lte(0)) return null
  return reached.method.kind === 'fixed' ? exact : rounded(exact, rule)
}

function applied(method: PriceMethod, base: Decimal): Decimal {
  if (method.kind === 'fixed') return new Exact(method.amount)
  if (method.kind === 'amount') return base.plus(method.amount)
  return base.times(new Exact(method.percent).plus(100)).div(100)
}

function rounded(exact: Decimal, rule: RoundingRule | null): Decimal {
  if (rule?.kind === 'step')
    return Decimal.max(exact.div(rule.step).toDecimalPlaces(0, 4).times(rule.step), rule.step)
  if (rule?.kind === 'endings')
    return Decimal.max(exact.times(2).plus('0.6').floor().div(2).minus('0.05'), '0.45')
  return Decimal.max(exact.toDecimalPlaces(2, 4), '0.01')
}
