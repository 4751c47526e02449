import 'server-only'

import type { Cart, CartLineWanted, CartProblem, TaxedAmount } from '@/core/cart/cart'
import { priceCart } from '@/core/cart/price-cart'
import type { WhyNot } from '@/core/cart/promote/outcome'
import { type MeasureUnit, unitPriceOf } from '@/core/catalogue/content'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { type Decimal, subtract, toFixed } from '@/core/decimal/decimal'
import type { Access } from '@/core/engine/rules/find-rights'
import type { LimitSource } from '@/core/engine/rules/find-limits'
import { contentOf, taxPrice } from '@/core/engine/rules/find-tax'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { BuyerContext } from '@/core/engine/context/buyer-context'
import type { ExplainedAnswer, Trace } from '@/core/engine/explain/trace'
import type { QuantityLimits } from '@/core/limits/limit'
import type { BasedAmount } from '@/core/price/based-amount'
import { priceDigitsOf } from '@/core/store/store'
import type { Levy, LevyMiss } from '@/core/tax/find-levies'

/** An amount as an answer tells it: decimal text with the digits of its currency. */
interface AnsweredAmount {
  readonly net: string
  readonly tax: string
  readonly gross: string
}

interface AnsweredUnitPrice {
  readonly per: MeasureUnit
  readonly net: string
  readonly gross: string
}

interface AnsweredLevy {
  /** Code of the tax. */
  readonly tax: string
  readonly name: string
  readonly percent: string
  readonly on: string
  readonly amount: string
}

/** A tax that falls on nothing here, and why. */
interface AnsweredMiss {
  readonly tax: string
  readonly code: LevyMiss['code']
}

type AnsweredLimits = QuantityLimits & {
  /** What set each field: `variant`, `product`, or `rule:` and its code. */
  readonly setBy: Readonly<Record<string, string>>
}

interface AnsweredRights {
  readonly see: boolean
  readonly seePrice: boolean
  readonly buy: boolean
  readonly quote: boolean
}

export interface ItemAnswer extends AnsweredRights {
  readonly currency: string
  /** The item with its extras; `null` without a price, and where none is shown. */
  readonly unit: AnsweredAmount | null
  /** The price for one kg, l, m, m² or piece of what the item holds; `null` where it does not say. */
  readonly unitPrice: AnsweredUnitPrice | null
  readonly total: AnsweredAmount | null
  readonly was: AnsweredAmount | null
  /** After promotions on item prices that hold whatever else is bought; `null` where they change nothing. */
  readonly promoted: {
    readonly unit: AnsweredAmount | null
    readonly was: AnsweredAmount | null
    /** By code, one after the other, with what each left. */
    readonly by: readonly { readonly promotion: string; readonly unit: AnsweredAmount | null }[]
  } | null
  readonly breaks: readonly {
    readonly from: string
    readonly unit: AnsweredAmount
    readonly promoted: AnsweredAmount | null
  }[]
  readonly extras: readonly { readonly code: string; readonly unit: AnsweredAmount | null }[]
  readonly taxes: readonly AnsweredLevy[]
  readonly untaxed: 'certificate' | 'reverse-charge' | null
  readonly limits: AnsweredLimits
  readonly because: ExplainedAnswer['because']
  /** How the price came about; `null` where none is shown. */
  readonly trace: Trace | null
  /** Every rule and how it stood, and taxes that fall on nothing. */
  readonly termsTrace: {
    readonly access: ExplainedAnswer['accessRules']
    readonly limits: ExplainedAnswer['limitRules']
    readonly taxes: readonly AnsweredMiss[]
  }
}

export interface CartAnswer {
  readonly currency: string
  readonly lines: readonly (AnsweredRights & {
    readonly sku: string
    readonly quantity: string
    readonly unit: AnsweredAmount | null
    readonly unitPrice: AnsweredUnitPrice | null
    readonly amount: AnsweredAmount | null
    readonly taxes: readonly { readonly tax: string; readonly percent: string; readonly amount: string }[]
    readonly limits: AnsweredLimits
    readonly list: string | null
    readonly contract: string | null
    /** The whole line before promotions. */
    readonly before: AnsweredAmount | null
    /** By code, in the basis of the line. */
    readonly promotions: readonly {
      readonly promotion: string
      readonly quantity: string
      readonly saving: string
    }[]
    /** The promotion that gives it for nothing, by code; `null` for what was asked. */
    readonly gift: string | null
  })[]
  readonly payment: AnsweredAmount | null
  readonly promotions: {
    readonly applied: readonly {
      readonly promotion: string
      readonly name: string
      readonly saving: string
      readonly uses: number
      readonly gifts: readonly { readonly sku: string; readonly quantity: string }[]
      readonly capped: string | null
    }[]
    readonly idle: readonly { readonly promotion: string; readonly because: WhyNot }[]
  }
  /** Sums are `null` where the price of any line is not shown. */
  readonly goods: AnsweredAmount | null
  readonly delivery: AnsweredAmount | null
  readonly taxes: readonly AnsweredLevy[]
  readonly total: AnsweredAmount | null
  readonly untaxed: 'certificate' | 'reverse-charge' | null
  readonly canOrder: boolean
  readonly problems: readonly CartProblem[]
}

export function toItemAnswer(
  prepared: PreparedStore,
  buyerContext: BuyerContext,
  line: CartLineWanted,
  answer: ExplainedAnswer,
): ItemAnswer {
  const { store, index } = prepared
  const { currency, access, basis, tax } = answer
  const digits = priceDigitsOf(store, currency)
  const opened = openPricingContext(prepared, buyerContext)
  if (!opened.ok) throw new RangeError(`nobody can stand there: ${opened.error.code}`)
  const pricingContext = opened.value
  const number = index.numberOf.get(line.variant) as number
  const amount = (price: BasedAmount | null): AnsweredAmount | null => {
    if (price === null || !access.seePrice) return null
    const { net, gross } = taxPrice(prepared, pricingContext, number, price)
    return toAmount({ net, tax: subtract(gross, net), gross }, digits)
  }
  const isShown = access.seePrice
  // The total of several is taxed as a line of a cart is, not piece by piece.
  const whole = isShown
    ? priceCart(prepared, { ...buyerContext, lines: [line], past: [], promotions: null })
    : null
  const total = whole?.ok ? (whole.value.lines[0]?.amount ?? null) : null
  return {
    currency,
    see: answer.see,
    seePrice: answer.seePrice,
    buy: answer.buy,
    quote: answer.quote,
    unit: amount(answer.unit && { amount: answer.unit, basis }),
    unitPrice: isShown && tax ? toUnitPrice(tax, contentOf(prepared, number), currency) : null,
    total: total && toAmount(total, digits),
    was: amount(answer.was),
    promoted:
      answer.promoted && isShown
        ? {
            unit: amount({ amount: answer.promoted.unit, basis: answer.promoted.basis }),
            was: amount(answer.promoted.was),
            by: answer.promoted.by.map(({ promotion, unit }) => ({
              promotion: store.promotion.get(promotion)?.code ?? promotion,
              unit: amount({ amount: unit, basis: answer.promoted?.basis ?? basis }),
            })),
          }
        : null,
    breaks: isShown
      ? answer.breaks.map((row) => ({
          from: row.from,
          unit: amount({ amount: row.unit, basis: row.basis }) as AnsweredAmount,
          promoted: amount(row.promoted),
        }))
      : [],
    extras: answer.extras.map(({ extra, unit }) => ({
      code: store.extra.get(extra)?.code ?? extra,
      unit: amount(unit),
    })),
    taxes:
      isShown && tax ? tax.taxes.map(({ levy, on, amount: part }) => toLevy(levy, on, part, digits)) : [],
    untaxed: tax?.untaxed ?? null,
    limits: toLimits(prepared, answer.limits),
    because: answer.because,
    trace: isShown ? answer.trace : null,
    termsTrace: {
      access: answer.accessRules.map(({ rule, standing }) => ({
        rule: store['access-rule'].get(rule)?.code ?? rule,
        standing,
      })),
      limits: answer.limitRules.map(({ rule, standing }) => ({
        rule: store.limit.get(rule)?.code ?? rule,
        standing,
      })),
      taxes: (tax?.misses ?? []).map((miss) => ({ tax: miss.tax.code, code: miss.code })),
    },
  }
}

export function toCartAnswer(prepared: PreparedStore, cart: Cart): CartAnswer {
  const { store, index } = prepared
  const { digits } = cart
  const priceDigits = priceDigitsOf(store, cart.currency)
  const isShown = cart.lines.every(({ access }) => access.seePrice)
  const codeOf = (records: ReadonlyMap<string, { readonly code: string }>, id: string | null) =>
    id === null ? null : (records.get(id)?.code ?? id)
  return {
    currency: cart.currency,
    lines: cart.lines.map((line) => ({
      sku: store.variant.get(line.variant)?.sku ?? line.variant,
      quantity: line.quantity,
      ...rightsOf(line.access),
      unit: line.access.seePrice && line.unitAmount ? toAmount(line.unitAmount, priceDigits) : null,
      unitPrice:
        line.access.seePrice && line.unitAmount
          ? toUnitPrice(
              line.unitAmount,
              contentOf(prepared, index.numberOf.get(line.variant) ?? -1),
              cart.currency,
            )
          : null,
      amount: line.access.seePrice && line.amount ? toAmount(line.amount, digits) : null,
      taxes: line.access.seePrice
        ? line.taxes.map(({ levy, amount }) => ({
            tax: levy.tax.code,
            percent: levy.percent,
            amount: toFixed(amount, digits),
          }))
        : [],
      limits: toLimits(prepared, line.limits),
      list: codeOf(store['price-list'], line.list),
      contract: codeOf(store.contract, line.contract),
      before: line.access.seePrice && line.beforeAmount ? toAmount(line.beforeAmount, digits) : null,
      promotions: line.access.seePrice
        ? line.discounts.map(({ promotion, quantity, saving }) => ({
            promotion: codeOf(store.promotion, promotion) as string,
            quantity,
            saving: toFixed(saving, digits),
          }))
        : [],
      gift: codeOf(store.promotion, line.gift),
    })),
    payment: isShown ? toAmount(cart.payment, digits) : null,
    promotions: isShown
      ? {
          applied: cart.promotions.applied.map(({ promotion, saving, uses, gifts, capped }) => ({
            promotion: codeOf(store.promotion, promotion) as string,
            name: store.promotion.get(promotion)?.name ?? '',
            saving: toFixed(saving, digits),
            uses,
            gifts: gifts.map(({ variant, quantity }) => ({
              sku: store.variant.get(variant)?.sku ?? variant,
              quantity,
            })),
            capped,
          })),
          idle: cart.promotions.idle.map(({ promotion, because }) => ({
            promotion: codeOf(store.promotion, promotion) as string,
            because: inCodes(store, because),
          })),
        }
      : { applied: [], idle: [] },
    goods: isShown ? toAmount(cart.goods, digits) : null,
    delivery: isShown ? toAmount(cart.delivery, digits) : null,
    taxes: isShown ? cart.taxes.map(({ levy, on, amount }) => toLevy(levy, on, amount, digits)) : [],
    total: isShown ? toAmount(cart.total, digits) : null,
    untaxed: cart.untaxed,
    canOrder: cart.problems.length === 0,
    problems: cart.problems,
  }
}

/** A reason that names records by what people call them. */
function inCodes(store: PreparedStore['store'], because: WhyNot): WhyNot {
  switch (because.code) {
    case 'used':
      return { ...because, by: store.promotion.get(because.by)?.code ?? because.by }
    case 'protected':
      return { ...because, contract: store.contract.get(because.contract)?.code ?? because.contract }
    case 'no-gift':
      return { ...because, variant: store.variant.get(because.variant)?.sku ?? because.variant }
    default:
      return because
  }
}

/** Rounded to the smallest unit of the currency, not to the digits a price may have. */
function toUnitPrice(
  { net, gross }: Pick<TaxedAmount, 'net' | 'gross'>,
  content: string | null,
  currency: string,
): AnsweredUnitPrice | null {
  const digits = findMinorDigits(currency) ?? 2
  const [without, including] = [unitPriceOf(net, content, digits), unitPriceOf(gross, content, digits)]
  if (!without || !including) return null
  return {
    per: without.per,
    net: toFixed(without.amount, digits),
    gross: toFixed(including.amount, digits),
  }
}

function rightsOf({ see, seePrice, buy, quote }: Access): AnsweredRights {
  return { see, seePrice, buy, quote }
}

function toAmount({ net, tax, gross }: TaxedAmount, digits: number): AnsweredAmount {
  return { net: toFixed(net, digits), tax: toFixed(tax, digits), gross: toFixed(gross, digits) }
}

function toLevy({ tax, percent }: Levy, on: Decimal, amount: Decimal, digits: number): AnsweredLevy {
  return {
    tax: tax.code,
    name: tax.name,
    percent,
    on: toFixed(on, digits),
    amount: toFixed(amount, digits),
  }
}

function toLimits(
  { store }: PreparedStore,
  {
    limits,
    setBy,
  }: { readonly limits: QuantityLimits; readonly setBy: Partial<Record<string, LimitSource>> },
): AnsweredLimits {
  const word = (source: LimitSource) =>
    source.kind === 'rule' ? `rule:${store.limit.get(source.rule)?.code ?? source.rule}` : source.kind
  return {
    ...limits,
    setBy: Object.fromEntries(
      Object.entries(setBy).flatMap(([field, source]) => (source ? [[field, word(source)]] : [])),
    ),
  }
}
