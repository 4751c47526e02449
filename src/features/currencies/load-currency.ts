import 'server-only'

import { findConversion, rateTable, type Currency } from '@/core/currency/currency'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { compare, type Decimal } from '@/core/decimal/decimal'
import { type Fraction, toFraction } from '@/core/decimal/fraction'
import { roundPrice, roundToDigits, toMinorUnit } from '@/core/decimal/rounding'
import { itemName } from '@/core/catalogue/product'
import { differencePercent } from '@/core/decimal/difference-percent'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import { soldVariants } from '@/server/engine/sold-variants'
import type { LoadedSheet } from '@/sheet/record/load-sheet'
import { formatAmount } from '@/ui/format/amount'
import { formatDay } from '@/ui/format/instant'
import { landName } from '@/ui/format/place-names'
import { recordHref } from '@/ui/frame/record-href'

/** One price on its way into the currency. */
export interface ConvertedRow {
  readonly name: string
  readonly href: string
  readonly base: string
  readonly atRate: string
  readonly withFee: string
  readonly pays: string
  /** With what is typed on the sheet, or with the rate that is tried. */
  readonly then: string | null
  readonly change: Decimal | null
  readonly isOwn: boolean
}

export interface CurrencyView {
  readonly code: string
  readonly home: string
  readonly rate: { readonly rate: string; readonly since: string } | null
  readonly rates: readonly {
    readonly id: string
    readonly at: string
    readonly value: number
    readonly text: string
    readonly day: string
    readonly source: string
    readonly isComing: boolean
  }[]
  readonly rows: readonly ConvertedRow[]
  readonly payers: readonly { readonly name: string; readonly href: string; readonly about: string }[]
  readonly own: readonly {
    readonly name: string
    readonly href: string
    readonly amount: string
    readonly about: string
  }[]
  /** How many products have an amount of their own in it. */
  readonly ownCount: number
}

const EXAMPLES = 6
const MOST_OWN = 6

/** How prices come into a currency: its rate, and what fee and rounding make of real prices. */
export async function loadCurrency({
  record,
  stored,
  id,
  before,
  after,
}: LoadedSheet): Promise<CurrencyView> {
  const { store } = before.prepared
  const settings = getSettings(store)
  const home = settings.currency
  const { at } = before.buyerContext
  const now = after?.prepared.store.currency.get(id) ?? store.currency.get(id) ?? null
  const then = stored ? (store.currency.get(id) ?? null) : null
  const table = rateTable(store['exchange-rate'].values(), at)
  const rate = table.rates.get(`${home}>${id}`) ?? null
  const day = (instant: string) => formatDay(new Date(instant), settings.timeZone)
  const rates = [...store['exchange-rate'].values()]
    .filter((each) => each.currency === id && each.per === home)
    .sort((left, right) => (left.from < right.from ? -1 : 1))
  return {
    code: String(record['code'] ?? ''),
    home,
    rate: rate && { rate: rate.rate, since: day(rate.from) },
    rates: rates.map((each) => ({
      id: each.id,
      at: each.from,
      value: Number(each.rate),
      text: each.rate,
      day: day(each.from),
      source: each.source === 'manual' ? 'entered by hand' : 'as published',
      isComing: Date.parse(each.from) > at,
    })),
    rows: now || then ? await convertedRows(before, then ?? now, after ? now : null) : [],
    payers: payersOf(store, id),
    ...ownAmounts(store, id),
  }
}

/** Six prices of different sizes as they are converted, and as they would be. */
export async function convertedRows(
  { prepared, buyerContext }: LoadedSheet['before'],
  current: Currency | null,
  tried: Currency | null,
  triedTable?: Parameters<typeof findConversion>[0],
): Promise<readonly ConvertedRow[]> {
  const { store } = prepared
  const home = getSettings(store).currency
  const homeDigits = priceDigitsOf(store, home)
  const currency = current ?? tried
  if (!currency) return []
  const table = rateTable(store['exchange-rate'].values(), buyerContext.at)
  const priced = (await soldVariants(prepared))
    .flatMap((item) => {
      const base = item.variant.basePrice ?? item.product.basePrice
      return base === null ? [] : [{ ...item, base }]
    })
    .sort((left, right) => compare(left.base, right.base))
  const step = Math.max(1, Math.floor(priced.length / EXAMPLES))
  const chosen = priced.filter((_, at) => at % step === Math.floor(step / 2)).slice(0, EXAMPLES)
  return chosen.map(({ product, variant, base }): ConvertedRow => {
    const own =
      variant.ownAmounts[currency.id]?.basePrice ?? product.ownAmounts[currency.id]?.basePrice ?? null
    const now = current && converted(table, home, base, current)
    const next = tried ? converted(triedTable ?? table, home, base, tried) : null
    const digits = currency.priceDigits ?? findMinorDigits(currency.id) ?? 2
    const pays = own ?? now?.pays ?? null
    const then = own ?? next?.pays ?? null
    return {
      name: itemName(product, variant),
      href: recordHref('products', product.code),
      base: formatAmount(base, homeDigits),
      atRate: now ? shortAmount(now.atRate) : '–',
      withFee: now ? shortAmount(now.withFee) : '–',
      pays: pays === null ? 'no rate' : formatAmount(pays, digits),
      then: tried === null || then === null ? null : formatAmount(then, digits),
      change: tried === null || pays === null || then === null ? null : differencePercent(then, pays),
      isOwn: own !== null,
    }
  })
}

function converted(
  table: Parameters<typeof findConversion>[0],
  home: string,
  base: Decimal,
  currency: Currency,
) {
  const conversion = findConversion(table, home, home, currency)
  const plain = findConversion(table, home, home, { ...currency, fee: '0' as Decimal })
  if (!conversion || !plain) return null
  const times = ({ numerator, denominator }: Fraction): Fraction => {
    const amount = toFraction(base)
    return { numerator: amount.numerator * numerator, denominator: amount.denominator * denominator }
  }
  return {
    atRate: times(plain.factor),
    withFee: times(conversion.factor),
    pays: roundPrice(times(conversion.factor), currency.rounding ?? toMinorUnit(currency.priceDigits)),
  }
}

const SHOWN_DIGITS = 3

function shortAmount(exact: Fraction): string {
  return formatAmount(roundToDigits(exact, SHOWN_DIGITS, 'half-up'), SHOWN_DIGITS)
}

function payersOf(store: Store, id: string): CurrencyView['payers'] {
  return [
    ...[...store.region.values()]
      .filter((region) => region.currency === id && region.status === 'active')
      .map((region) => ({
        name: region.name,
        href: recordHref('regions', region.code),
        about: region.isDefault ? 'all other countries' : region.countries.map(landName).join(', '),
      })),
    ...[...store.account.values()]
      .filter((account) => account.currency === id && account.status === 'active')
      .map((account) => ({
        name: account.name,
        href: recordHref('accounts', account.code),
        about: 'by itself',
      })),
    ...[...store.contract.values()]
      .filter((contract) => contract.currency === id && contract.state === 'active')
      .map((contract) => ({
        name: contract.name,
        href: recordHref('contracts', contract.code),
        about: 'by contract',
      })),
  ]
}

function ownAmounts(store: Store, id: string): Pick<CurrencyView, 'own' | 'ownCount'> {
  const digits = priceDigitsOf(store, id)
  const own = [...store.product.values(), ...store.variant.values()].flatMap((item) => {
    const amount = item.ownAmounts[id]?.basePrice
    if (!amount) return []
    const product = 'product' in item ? store.product.get(item.product) : item
    return [
      {
        name: 'sku' in item ? `${product?.name ?? ''} ${item.sku}` : item.name,
        href: recordHref('products', product?.code ?? ''),
        amount: formatAmount(amount, digits),
        about: 'set, never converted',
      },
    ]
  })
  const lists = [...store['price-list'].values()]
    .filter((list) => list.currency === id && list.status === 'active')
    .map((list) => ({
      name: list.name,
      href: recordHref('price-lists', list.code),
      amount: '',
      about: 'a price list in it',
    }))
  return { own: [...own.slice(0, MOST_OWN), ...lists.slice(0, MOST_OWN)], ownCount: own.length }
}
