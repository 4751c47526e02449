import type { BuyerReference } from '@/core/buyers/buyer'
import type { Product, Variant } from '@/core/catalogue/product'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { WhatTerm } from '@/core/predicates/what'
import type { WhoTerm } from '@/core/predicates/who'
import type { PriceLine, PriceList, PriceMethod } from '@/core/price/price-list'
import type { Store } from '@/core/store/store'
import Decimal from 'decimal.js'

/**
 * docs/model.md, written down the slow and obvious way: for one buyer and one variant look at every line of
 * every list, sort what applies, take the first. It shares no arithmetic, matching or ordering with the
 * engine it judges.
 */
const Exact = Decimal.clone({ precision: 60, toExpNeg: -40, toExpPos: 40 })

export interface ReferencePrice {
  /** Two or more digits as stored, without trailing zeros; `null` without a price. */
  readonly unit: string | null
  readonly list: string | null
  /** `null` for a default line or the base price. */
  readonly line: string | null
  /** Each candidate that lost, as `list/line reason price`, sorted. */
  readonly losers: readonly string[]
}

interface Candidate {
  readonly list: PriceList
  readonly line: PriceLine | null
  readonly specificity: number
  readonly exact: Decimal | null
  readonly price: Decimal | null
}

const RUNGS = ['account', 'group', 'signed-in', 'everyone']

export function referencePrice(store: Store, buyer: BuyerReference, variantId: string): ReferencePrice {
  const variant = store.variant.get(variantId) as Variant
  const product = store.product.get(variant.product) as Product
  const baseText = variant.basePrice ?? product.basePrice
  const base = baseText === null ? null : new Exact(baseText)
  const digits = store.settings.get('settings')?.priceDigits as number

  const lists = [...store['price-list'].values()]
  const candidatesOf = (list: PriceList): Candidate[] => {
    const found: Candidate[] = []
    for (const line of [...store['price-line'].values()].filter((each) => each.list === list.id)) {
      const specificity = whatSpecificity(store, line, product, variant)
      if (specificity === null) continue
      const exact = methodResult(line.method, base)
      found.push({
        list,
        line,
        specificity,
        exact,
        price: finish(line.method, exact, line.rounding ?? list.rounding, digits),
      })
    }
    found.sort(
      (a, b) =>
        b.specificity - a.specificity ||
        (a.line as PriceLine).position - (b.line as PriceLine).position ||
        ((a.line as PriceLine).id < (b.line as PriceLine).id ? -1 : 1),
    )
    if (list.defaultLine) {
      const exact = methodResult(list.defaultLine, base)
      found.push({
        list,
        line: null,
        specificity: -1,
        exact,
        price: finish(list.defaultLine, exact, list.rounding, digits),
      })
    }
    return found
  }

  const rungs = new Map(lists.map((list) => [list.id, rungFor(store, list, buyer)]))
  const applying = lists
    .filter((list) => list.state === 'on' && rungs.get(list.id) !== null)
    .flatMap((list) =>
      candidatesOf(list)
        .filter(({ price }) => price !== null)
        .slice(0, 1),
    )
    .sort(
      (a, b) =>
        RUNGS.indexOf(rungs.get(a.list.id) as string) - RUNGS.indexOf(rungs.get(b.list.id) as string) ||
        a.list.rank - b.list.rank ||
        b.specificity - a.specificity ||
        (a.list.code < b.list.code ? -1 : 1),
    )
  const winner = applying[0]

  const losers = lists.flatMap((list) => {
    const rung = rungs.get(list.id) ?? null
    const candidates = candidatesOf(list)
    const best = candidates.find(({ price }) => price !== null)
    const tell = (candidate: Candidate | undefined, reason: string) =>
      `${list.id}/${candidate?.line?.id ?? 'null'} ${reason} ${candidate?.price?.toFixed() ?? 'null'}`
    if (rung === null) return [tell(best, 'not-for-buyer')]
    if (list.state === 'off') return [tell(best, 'off')]
    const failed = candidates
      .filter(({ price }) => price === null)
      .map((candidate) => tell(candidate, candidate.exact === null ? 'no-base-price' : 'not-above-zero'))
    if (list === winner?.list) {
      const beaten = candidates
        .filter((candidate) => candidate.price !== null && candidate.line !== winner.line)
        .map((candidate) =>
          tell(candidate, candidate.specificity < winner.specificity ? 'less-specific-line' : 'later-line'),
        )
      return [...failed, ...beaten]
    }
    if (best && winner) {
      const winnerRung = rungs.get(winner.list.id)
      if (rung !== winnerRung) return [tell(best, 'lower-rung')]
      if (list.rank !== winner.list.rank) return [tell(best, 'later-rank')]
      return [tell(best, best.specificity < winner.specificity ? 'less-specific-list' : 'later-code')]
    }
    if (failed.length > 0) return failed
    const excluding = [...store['price-line'].values()]
      .filter((line) => line.list === list.id)
      .sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1))
      .find((line) => line.scope.exclude.some((term) => reach(store, term, product, variant) !== null))
    return [`${list.id}/${excluding?.id ?? 'null'} ${excluding ? 'excluded-item' : 'no-line'} null`]
  })

  return {
    unit: (winner ? winner.price : base)?.toFixed() ?? null,
    list: winner?.list.id ?? null,
    line: winner?.line?.id ?? null,
    losers: losers.sort(),
  }
}

function rungFor(store: Store, list: PriceList, buyer: BuyerReference): string | null {
  if (list.audience.exclude.some((term) => inAudience(store, term, buyer))) return null
  const rungOf: Record<WhoTerm['kind'], string> = {
    account: 'account',
    email: 'account',
    tag: 'group',
    group: 'group',
    trade: 'group',
    'signed-in': 'signed-in',
    guests: 'signed-in',
    everyone: 'everyone',
  }
  const rungs = list.audience.include
    .filter((term) => inAudience(store, term, buyer))
    .map((term) => rungOf[term.kind])
  return RUNGS.find((rung) => rungs.includes(rung)) ?? null
}

function inAudience(store: Store, term: WhoTerm, buyer: BuyerReference): boolean {
  const account = buyer.kind === 'account' ? store.account.get(buyer.account) : undefined
  const groups = buyer.kind === 'group' ? [buyer.group] : (account?.groups ?? [])
  if (term.kind === 'everyone') return true
  if (term.kind === 'guests') return buyer.kind === 'guest'
  if (term.kind === 'signed-in') return buyer.kind !== 'guest'
  if (term.kind === 'trade') return groups.some((id) => store.group.get(id)?.trade)
  if (term.kind === 'group') return groups.includes(term.group)
  if (term.kind === 'tag') return account?.tags.includes(term.tag) ?? false
  if (term.kind === 'email') return account?.emails.includes(term.email) ?? false
  return account?.id === term.account
}

function whatSpecificity(store: Store, line: PriceLine, product: Product, variant: Variant): number | null {
  if (line.scope.exclude.some((term) => reach(store, term, product, variant) !== null)) return null
  const reached = line.scope.include
    .map((term) => reach(store, term, product, variant))
    .filter((specificity) => specificity !== null)
  return reached.length > 0 ? Math.max(...reached) : null
}

/** A number that grows with how specific a term is for the item; `null` when it does not reach it. */
function reach(store: Store, term: WhatTerm, product: Product, variant: Variant): number | null {
  if (term.kind === 'everything') return 0
  if (term.kind === 'variant') return term.variant === variant.id ? 1_000_000 : null
  if (term.kind === 'product') return term.product === product.id ? 500_000 : null
  if (term.kind === 'attribute') {
    return (variant.options[term.name] ?? product.attributes[term.name]) === term.value ? 100_000 : null
  }
  let nearest: number | null = null
  for (const own of product.categories) {
    let steps = 0
    for (let id: string | null = own; id !== null; id = store.category.get(id)?.parent ?? null) {
      if (id === term.category && (steps === 0 || term.descendants))
        nearest = Math.min(nearest ?? steps, steps)
      steps += 1
    }
  }
  return nearest === null ? null : 10_000 - nearest
}

function methodResult(method: PriceMethod, base: Decimal | null): Decimal | null {
  if (method.kind === 'fixed') return new Exact(method.amount)
  if (base === null) return null
  return method.kind === 'amount'
    ? base.plus(method.amount)
    : base.times(new Exact(method.percent).plus(100)).div(100)
}

function finish(
  method: PriceMethod,
  exact: Decimal | null,
  rule: RoundingRule | null,
  digits: number,
): Decimal | null {
  if (exact === null || exact.lte(0)) return null
  if (method.kind === 'fixed') return exact
  if (rule === null)
    return atLeast(exact.toDecimalPlaces(digits, Exact.ROUND_HALF_UP), new Exact(10).pow(-digits))
  if (rule.kind === 'step') {
    const modes = { 'half-up': 4, 'half-even': 6, up: 0, down: 1 } as const
    const step = new Exact(rule.step)
    return atLeast(exact.div(step).toDecimalPlaces(0, modes[rule.mode]).times(step), step)
  }
  // Every price of the grid near the value, and the best of them.
  const period = new Exact(rule.period)
  const from = exact.div(period).floor().minus(1)
  const grid = [0, 1, 2, 3].flatMap((k) =>
    rule.endings.map((ending) => from.plus(k).times(period).plus(ending)),
  )
  const positive = grid.filter((price) => price.gt(0))
  const below = positive.filter((price) => price.lte(exact)).at(-1) ?? (positive[0] as Decimal)
  const above = positive.find((price) => price.gte(exact)) as Decimal
  if (rule.mode === 'down') return below
  if (rule.mode === 'up') return above
  return exact.minus(below).abs().lt(above.minus(exact)) ? below : above
}

function atLeast(value: Decimal, least: Decimal): Decimal {
  return value.lte(0) ? least : value
}
