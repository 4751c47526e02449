import 'server-only'

import type { Cart, CartLine } from '@/core/cart/cart'
import type { AppliedPromotion } from '@/core/cart/promote/outcome'
import type { PromotionFacts } from '@/core/promotions/facts'
import { priceCart } from '@/core/cart/price-cart'
import { findBySku } from '@/core/catalogue/find-by-code'
import { itemName } from '@/core/catalogue/product'
import {
  compare,
  type Decimal,
  multiply,
  negate,
  parseDecimal,
  subtract,
  sum,
  ZERO,
} from '@/core/decimal/decimal'
import { amountAt, shownAmounts } from '@/core/engine/amounts/amounts'
import { storeBasis } from '@/core/engine/amounts/basis'
import { toPrice } from '@/core/engine/lists/price-step'
import { isBelowCost, marginPercent } from '@/core/price/margin'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import { withChanges } from '@/core/engine/prepare'
import type { Promotion, PromotionKind } from '@/core/promotions/promotion'
import { toInstant } from '@/core/predicates/when'
import { getSettings, type Store } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'
import { soldVariants } from '@/server/engine/sold-variants'
import type { LoadedSheet } from '@/sheet/record/load-sheet'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import { promotionPhrase } from '@/ui/format/promotion-phrases'
import { whyNotWords } from '@/ui/format/promotion-standing'
import { formatDay } from '@/ui/format/instant'
import { recordHref } from '@/ui/frame/record-href'
import type { SampleCartView, SampleCompetitor, SampleLine, SampleRow, SampleSet } from './sample-view'

const MOST_LINES = 50
/** Units drawn one by one. */
const MOST_DRAWN = 8

/** The promotion of a sheet as it would be, and where its carts are priced: switched on, whatever it is. */
function asIfOn({ id, before, after }: LoadedSheet) {
  const look = after ?? before
  const promotion = look.prepared.store.promotion.get(id)
  if (!promotion) return null
  const on: Promotion = { ...promotion, state: 'on', status: 'active' }
  const prepared = withChanges(look.prepared, [{ kind: 'promotion', id, before: promotion, after: on }])
  return { look, promotion: on, prepared }
}

/** What the merchant tries it as: a buyer who does whatever it asks of them. */
function factsFor({ id, conditions, value }: Promotion): PromotionFacts {
  const payment = conditions.find(({ kind }) => kind === 'payment')
  return {
    codes: conditions.flatMap((condition) => (condition.kind === 'code' ? [condition.code] : [])),
    payment:
      payment?.kind === 'payment' ? payment.payment : value.kind === 'payment' ? value.payment : 'card',
    choices: { [id]: 'taken' },
    pastOrders: null,
    uses: {},
  }
}

/** A cart that shows a promotion: some of what it is for, dear and cheap, and one thing it is not for. */
export async function firstSample(loaded: LoadedSheet): Promise<readonly SampleLine[]> {
  const sample = asIfOn(loaded)
  if (!sample) return []
  const { promotion, prepared } = sample
  const isIn = scopeMatcher(prepared, promotion.scope)
  const inside: string[] = []
  const outside: string[] = []
  const products = new Set<string>()
  for (const { number, variant, product } of await soldVariants(prepared)) {
    if (products.has(product.id)) continue
    const found = isIn(number) ? inside : outside
    if (found.length >= (isIn(number) ? 4 : 1)) continue
    products.add(product.id)
    found.push(variant.sku)
    if (inside.length >= 4 && outside.length >= 1) break
  }
  const counts = countsFor(promotion)
  return [
    ...inside.map((sku, at) => ({ sku, quantity: String(counts[at] ?? 1) })),
    ...outside.map((sku) => ({ sku, quantity: '1' })),
  ]
}

/** How many of each, so that it holds for some and just not for others. */
function countsFor({ value }: Promotion): readonly number[] {
  switch (value.kind) {
    case 'set': {
      const units = value.parts.reduce((total, { count }) => total + count, 0)
      return [Math.max(1, units - 1), 1, units, 1]
    }
    case 'by-quantity':
      return [Math.max(1, Math.ceil(Number(value.from)) - 1), 2, 1, 1]
    case 'free-goods':
      return [value.brackets[0]?.from ?? 1, 1, 1, 1]
    default:
      return [2, 1, 3, 1]
  }
}

/**
 * A sample cart under a promotion as it would be.
 *
 * Errors  says which line is none, or why the promotion cannot be tried.
 */
export function loadSample(
  loaded: LoadedSheet,
  lines: readonly SampleLine[],
): { readonly ok: true; readonly view: SampleCartView } | { readonly ok: false; readonly problem: string } {
  const sample = asIfOn(loaded)
  if (!sample) return { ok: false, problem: 'Name it, and say what it is for: a cart under it stands here.' }
  const { look, promotion, prepared } = sample
  const { store } = prepared
  const wanted: { variant: string; quantity: Decimal; extras: readonly string[] }[] = []
  for (const { sku, quantity } of lines.slice(0, MOST_LINES)) {
    const variant = findBySku(store.variant, sku.trim())
    if (!variant) return { ok: false, problem: `There is no SKU “${sku}”.` }
    const count = parseDecimal(quantity.trim())
    if (count === null || compare(count, ZERO) <= 0)
      return { ok: false, problem: `“${quantity}” of ${sku} is no quantity above zero.` }
    wanted.push({ variant: variant.id, quantity: count, extras: [] })
  }
  const priced = priceCart(prepared, {
    ...look.buyerContext,
    lines: wanted,
    past: [],
    promotions: factsFor(promotion),
  })
  if (!priced.ok) return { ok: false, problem: 'This buyer cannot buy here: look at the vantage above.' }
  return { ok: true, view: toView(look, promotion, prepared, priced.value) }
}

function toView(
  look: RequestContext,
  promotion: Promotion,
  prepared: RequestContext['prepared'],
  cart: Cart,
): SampleCartView {
  const { store, index } = prepared
  const { digits, currency } = cart
  const isIn = scopeMatcher(prepared, promotion.scope)
  const applied = cart.promotions.applied.find((each) => each.promotion === promotion.id)
  const idle = cart.promotions.idle.find((each) => each.promotion === promotion.id)
  const sets = setsOf(applied, digits)
  const before = sum(cart.lines.map((line) => line.before ?? ZERO))
  const saved = sum(cart.lines.flatMap(({ discounts }) => discounts.map(({ saving }) => saving)))
  const charges = chargesOf(prepared, cart)
  const paid = sum([subtract(before, saved), ...charges.map(({ amount }) => amount)])
  return {
    buyer: look.buyerName,
    basis: storeBasis(prepared) === 'net' ? 'prices without tax' : 'prices with tax',
    currency,
    rows: withHint(
      applied?.missing ?? null,
      cart.lines.map((line, at) =>
        toRow(
          store,
          line,
          takenOf(applied, at),
          isIn(index.numberOf.get(line.variant) ?? -1),
          digits,
          givesGift(applied, at),
        ),
      ),
    ),
    charges: charges.map(({ name, saved: less, amount }) => ({
      name,
      saved: savedWords(less, digits),
      pays: formatAmount(amount, digits),
    })),
    before: formatAmount(before, digits),
    saved: savedWords(saved, digits),
    total: formatAmount(paid, digits),
    sets,
    ...marginsOf(prepared, look, cart, applied),
    competitors: competitorsOf(prepared, promotion, cart),
    why: idle ? whyNotWords({ store, currency, digits }, idle.because) : '',
    begins: idle?.because.code === 'not-now' ? beginningOf(store, promotion) : null,
  }
}

/** Margins of the lines a promotion touches, of those whose cost is known. */
function marginsOf(
  prepared: RequestContext['prepared'],
  { pricingContext }: RequestContext,
  { lines }: Cart,
  applied: AppliedPromotion | undefined,
): Pick<SampleCartView, 'margin' | 'belowCost'> {
  const { currencyView, digits } = pricingContext
  const costs = shownAmounts(prepared, 'cost', currencyView)
  const touched = (applied?.lines ?? []).flatMap(({ line }) => {
    const found = lines[line]
    const number = prepared.index.numberOf.get(found?.variant ?? '')
    const cost = number === undefined ? null : toPrice(amountAt(costs, number), digits)
    if (!found?.before || cost === null) return []
    const pays = subtract(found.before, sum(found.discounts.map(({ saving }) => saving)))
    return [{ variant: found.variant, before: found.before, pays, cost: multiply(cost, found.quantity) }]
  })
  if (touched.length === 0) return { margin: null, belowCost: [] }
  const whole = (of: 'before' | 'pays' | 'cost') => sum(touched.map((each) => each[of]))
  const percent = (paid: Decimal) => {
    const margin = paid === ZERO ? null : marginPercent(paid, whole('cost'))
    return margin === null ? '–' : formatPercent(margin)
  }
  return {
    margin: { before: percent(whole('before')), now: percent(whole('pays')) },
    belowCost: touched
      .filter(({ pays, cost }) => isBelowCost(pays, cost))
      .map(({ variant }) => prepared.store.variant.get(variant)?.sku ?? variant),
  }
}

function savedWords(saved: Decimal, digits: number): string {
  return saved === ZERO ? '–' : formatAmount(negate(saved), digits)
}

/** Delivery and payment as the store enters amounts; what is saved on them is known without tax. */
function chargesOf(prepared: RequestContext['prepared'], { delivery, payment, promotions }: Cart) {
  const basis = storeBasis(prepared)
  const savedOn = (kind: PromotionKind) =>
    basis === 'gross'
      ? ZERO
      : sum(
          promotions.applied
            .filter((each) => prepared.store.promotion.get(each.promotion)?.value.kind === kind)
            .map(({ saving }) => saving),
        )
  const charges = [
    { name: 'Delivery', amount: delivery[basis], saved: savedOn('delivery') },
    { name: 'For the way of paying', amount: payment[basis], saved: ZERO },
  ]
  return charges.filter(({ amount, saved }) => amount !== ZERO || saved !== ZERO)
}

function beginningOf(store: Store, { schedule }: Promotion): SampleCartView['begins'] {
  if (schedule.from === null) return null
  const instant = toInstant(schedule.from, getSettings(store).timeZone)
  return {
    on: new Date(instant).toISOString(),
    words: formatDay(new Date(instant), getSettings(store).timeZone),
  }
}

function toRow(
  store: Store,
  line: CartLine,
  taken: readonly number[],
  isIn: boolean,
  digits: number,
  forGift: Decimal | null,
): SampleRow {
  const variant = store.variant.get(line.variant)
  const product = store.product.get(variant?.product ?? '')
  const saved = sum(line.discounts.map(({ saving }) => saving))
  const pays = line.before === null ? null : subtract(line.before, saved)
  return {
    sku: variant?.sku ?? '',
    name: product && variant ? itemName(product, variant) : (product?.name ?? ''),
    href: recordHref('products', product?.code ?? ''),
    quantity: line.quantity,
    each: line.unit === null ? 'no price' : formatAmount(line.unit, digits),
    before: line.before === null ? '' : formatAmount(line.before, digits),
    taken: taken.slice(0, MOST_DRAWN),
    more: Math.max(0, taken.length - MOST_DRAWN),
    note: forGift === null ? noteOf(line, isIn, taken.length > 0) : `${forGift} bring the gift`,
    saved: savedWords(saved, digits),
    pays: pays === null ? '' : formatAmount(pays, digits),
    isGift: line.gift !== null,
    isIn,
  }
}

/** At the first line a set left something of: how many more units make another one. */
function withHint(missing: Decimal | null, rows: readonly SampleRow[]): readonly SampleRow[] {
  const first = rows.findIndex(
    ({ isIn, isGift, quantity, taken, more }) =>
      isIn && !isGift && Math.floor(Number(quantity)) > taken.length + more,
  )
  if (missing === null || first < 0) return rows
  const note = `${missing} more ${missing === '1' ? 'makes' : 'make'} another set`
  return rows.map((row, at) => (at === first ? { ...row, note } : row))
}

function noteOf(line: CartLine, isIn: boolean, isTaken: boolean): string {
  if (line.gift !== null) return 'free, added to the cart'
  if (line.before === null) return 'cannot be bought here'
  if (isTaken) return ''
  return isIn ? '' : 'not in it'
}

/** How many units of a line were bought for a gift; `null` where none were. */
function givesGift(applied: AppliedPromotion | undefined, line: number): Decimal | null {
  if (!applied || applied.gifts.length === 0) return null
  const own = applied.lines.find((each) => each.line === line)
  return own && own.saving === ZERO ? own.quantity : null
}

/** The numbers of the sets a line's units are in; of other promotions one mark for each unit it took. */
function takenOf(applied: AppliedPromotion | undefined, line: number): readonly number[] {
  if (!applied) return []
  if (applied.sets.length === 0) {
    const own = applied.lines.find((each) => each.line === line && compare(each.saving, ZERO) > 0)
    return own ? Array.from({ length: Math.floor(Number(own.quantity)) }, () => 1) : []
  }
  let number = 0
  return applied.sets.flatMap(({ times, units }) => {
    const own = units.filter((each) => each.line === line).reduce((total, { count }) => total + count, 0)
    const marks = Array.from({ length: times }, (_, at) => Array.from({ length: own }, () => number + at + 1))
    number += times
    return marks.flat()
  })
}

function setsOf(applied: AppliedPromotion | undefined, digits: number): readonly SampleSet[] {
  let number = 0
  return (applied?.sets ?? []).map(({ times, amount, saving }) => {
    const first = number + 1
    number += times
    const after = subtract(amount, saving)
    return {
      number: first,
      times,
      before: formatAmount(amount, digits),
      after: formatAmount(after, digits),
      paid: Number(amount) === 0 ? 1 : Number(after) / Number(amount),
    }
  })
}

/** Every promotion that looks at something in the cart, the lowest priority number first, and how it stood. */
function competitorsOf(
  prepared: RequestContext['prepared'],
  promotion: Promotion,
  { lines, promotions, currency, digits }: Cart,
): readonly SampleCompetitor[] {
  const { store, index } = prepared
  const numbers = lines.map(({ variant }) => index.numberOf.get(variant) ?? -1)
  const own = numbers.filter(scopeMatcher(prepared, promotion.scope))
  // What is for none of these lines competes for nothing, whatever else keeps it off.
  const isRival = (id: string) => {
    const scope = store.promotion.get(id)?.scope
    return id === promotion.id || (scope !== undefined && own.some(scopeMatcher(prepared, scope)))
  }
  const standings = new Map<string, { words: string; wins: boolean }>()
  for (const { promotion: id, saving } of promotions.applied)
    standings.set(id, {
      words:
        compare(saving, ZERO) < 0
          ? `adds ${formatAmount(negate(saving), digits)}`
          : `wins, ${formatAmount(negate(saving), digits)}`,
      wins: true,
    })
  for (const { promotion: id, because } of promotions.idle) {
    if (id !== promotion.id && ['archived', 'off', 'not-for-cart', 'not-here'].includes(because.code))
      continue
    standings.set(id, { words: whyNotWords({ store, currency, digits }, because), wins: false })
  }
  return [...standings]
    .flatMap(([id, { words, wins }]): readonly SampleCompetitor[] => {
      const each = store.promotion.get(id)
      if (!each || !isRival(id)) return []
      return [
        {
          rank: each.rank,
          name: each.name,
          href: recordHref('promotions', each.code),
          offer: promotionPhrase(store, each.value),
          standing: words,
          isThis: id === promotion.id,
          isWinner: wins,
        },
      ]
    })
    .sort((one, other) => one.rank - other.rank || (one.name < other.name ? -1 : 1))
}
