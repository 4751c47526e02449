import { findMinorDigits } from '@/core/currency/iso-4217'
import type { CartQuestion } from '@/core/cart/cart'
import type { Place } from '@/core/places/place'
import type { Store } from '@/core/store/store'
import { inWhen } from './reference-matching'
import { referencePrice } from './reference-price'
import { Rational } from './rational'
import { chargedTaxes, type Charged, grossFactor, partsOfNet } from './reference-tax'

/** docs/model.md on carts and documents, the slow and obvious way: prices, exact totals, delivery and taxes. */

interface Sums {
  readonly net: Rational
  readonly tax: Rational
  readonly gross: Rational
}

export interface ReferenceCart {
  readonly lines: readonly (readonly [net: string, tax: string, gross: string] | null)[]
  readonly delivery: readonly [net: string, tax: string, gross: string]
  readonly total: readonly [net: string, tax: string, gross: string]
  /** `tax percent on amount`, sorted. */
  readonly taxes: readonly string[]
  readonly untaxed: string | null
}

interface Taxable {
  readonly amount: Rational
  readonly basis: 'net' | 'gross'
  readonly charged: readonly Charged[]
}

export function referenceCart(store: Store, asked: CartQuestion): ReferenceCart {
  const settings = store.settings.get('settings')!
  const { buyer, at } = asked
  const account = buyer.kind === 'account' ? store.account.get(buyer.account) : undefined
  const home: Place = { country: settings.country, state: '', postcode: '', city: '' }
  const own: Place = account
    ? { country: account.country, state: account.state, postcode: account.postcode, city: account.city }
    : home
  const deliverTo = asked.deliverTo ?? own
  const taxPlace =
    settings.taxPlace === 'store' ? home : settings.taxPlace === 'billing' && account ? own : deliverTo

  const isExempt =
    account !== undefined &&
    account.exemption !== '' &&
    inWhen(
      { from: null, to: account.exemptUntil, months: [], weekdays: [], hours: null, overrides: {} },
      settings.timeZone,
      at,
    )
  const registered = account ? registeredIn(account.taxNumber, account.country) : null
  const elsewhere = (country: string | null) =>
    country !== null && country !== settings.country && settings.unionCountries.includes(country)
  const isReverse =
    elsewhere(registered) &&
    elsewhere(deliverTo.country) &&
    settings.unionCountries.includes(settings.country)
  const untaxed = isExempt ? 'certificate' : isReverse ? 'reverse-charge' : null

  const taxes = (taxClass: string | null, place: Place, isDelivery = false) =>
    chargedTaxes(store, { place, taxClass, isDelivery, at })
  const classOf = (variant: string) => {
    const { taxClass, product } = store.variant.get(variant)!
    return taxClass ?? store.product.get(product)!.taxClass ?? settings.taxClass
  }

  // --- what each line comes to -----------------------------------------------------------------------------

  const quantityOf = (variant: string) =>
    asked.lines
      .filter((line) => line.variant === variant)
      .reduce((sum, { quantity }) => sum.plus(quantity), Rational.of(0))
  const priced = asked.lines.map((line) => {
    const others = [...new Set(asked.lines.map(({ variant }) => variant))].filter(
      (variant) => variant !== line.variant,
    )
    const question = {
      ...asked,
      variant: line.variant,
      quantity: quantityOf(line.variant).toText() as typeof line.quantity,
      basket: others.map((variant) => ({
        variant,
        quantity: quantityOf(variant).toText() as typeof line.quantity,
      })),
      extras: [],
    }
    const item = referencePrice(store, question)
    const extras = line.extras.map((extra) => referencePrice(store, question, extra))
    if (item.unit === null || extras.some(({ unit }) => unit === null))
      return { line, currency: item.currency, exact: null, basis: item.basis, together: null }
    const place = settings.grossElsewhere === 'keep-net' ? home : taxPlace
    const factor = grossFactor(taxes(classOf(line.variant), place))
    const added = extras.reduce((sum, { unit, basis }) => {
      const amount = Rational.of(unit!)
      const brought =
        basis === item.basis ? amount : item.basis === 'gross' ? amount.times(factor) : amount.div(factor)
      return sum.plus(brought)
    }, Rational.of(0))
    const each = item.exact ? item.exact.plus(added) : Rational.of(item.unit).plus(added).round(item.digits)
    return {
      line,
      currency: item.currency,
      exact: each.times(line.quantity),
      basis: item.basis,
      together: item.exact ? item.together : null,
    }
  })
  const currency = priced[0]!.currency
  const digits = findMinorDigits(currency) ?? 2
  const totals = priced.map(({ exact, together }) => exact && together === null && exact.round(digits))
  for (const key of new Set(priced.flatMap(({ together }) => together ?? []))) {
    const members = priced.flatMap(({ together }, index) => (together === key ? [index] : []))
    share(
      members.map((index) => priced[index]!.exact!),
      digits,
    ).forEach((amount, place) => (totals[members[place]!] = amount))
  }

  // --- what is taxed ---------------------------------------------------------------------------------------

  const keepsNet = untaxed !== null || settings.grossElsewhere === 'keep-net'
  const toTaxable = (amount: Rational, basis: 'net' | 'gross', taxClass: string | null): Taxable => {
    const charged = untaxed ? [] : taxes(taxClass, taxPlace)
    const atHome = taxes(taxClass, home)
    if (basis === 'net' || !keepsNet || spelt(charged) === spelt(atHome)) return { amount, basis, charged }
    const tax = amount.minus(amount.div(grossFactor(atHome))).round(digits)
    return { amount: amount.minus(tax), basis: 'net', charged }
  }
  const goods = priced.flatMap(({ line, basis }, index) =>
    totals[index] ? [{ index, ...toTaxable(totals[index], basis, classOf(line.variant)) }] : [],
  )
  const goodsAlone = taxed(goods, settings.taxRounding, digits)
  const deliveries = delivery(
    store,
    { ...asked, currency },
    goods.map(({ index }, position) => ({
      taxClass: classOf(priced[index]!.line.variant),
      net: goodsAlone[position]!.net,
    })),
    digits,
  ).map(({ amount, taxClass }) => ({
    amount,
    basis: 'net' as const,
    charged: untaxed ? [] : taxes(taxClass, taxPlace, true),
  }))
  const whole = taxed([...goods, ...deliveries], settings.taxRounding, digits)
  const ofGoods = whole.slice(0, goods.length)
  const ofDelivery = whole.slice(goods.length)

  const byTax = new Map<string, { on: Rational; amount: Rational }>()
  for (const { net, parts } of whole)
    for (const { charged, amount, below } of parts) {
      const key = `${charged.tax.id} ${charged.rate.percent}`
      const known = byTax.get(key) ?? { on: Rational.of(0), amount: Rational.of(0) }
      byTax.set(key, { on: known.on.plus(net).plus(below), amount: known.amount.plus(amount) })
    }
  return {
    lines: priced.map((_, index) => {
      const position = goods.findIndex((each) => each.index === index)
      return position < 0 ? null : told(ofGoods[position]!)
    }),
    delivery: told(summed(ofDelivery)),
    total: told(summed(whole)),
    taxes: [...byTax].map(([key, { on, amount }]) => `${key} ${on.toText()} ${amount.toText()}`).sort(),
    untaxed,
  }
}

function registeredIn(taxNumber: string, country: string): string | null {
  if (taxNumber === '') return null
  const prefix = taxNumber.slice(0, 2)
  return prefix === 'EL' ? 'GR' : /^[A-Z]{2}$/.test(prefix) ? prefix : country
}

function spelt(charged: readonly Charged[]): string {
  return charged.map(({ tax, rate }) => `${tax.id} ${rate.percent}`).join()
}

/** Exact amounts rounded so that they add up to their sum rounded once. */
function share(exacts: readonly Rational[], digits: number): readonly Rational[] {
  const unit = Rational.of(10n ** BigInt(digits) > 0n ? `1${'0'.repeat(digits)}` : '1')
  const floors = exacts.map((exact) => exact.times(unit).floor())
  const rests = exacts.map((exact, index) => exact.times(unit).minus(floors[index]!))
  let left = rests.reduce((sum, rest) => sum.plus(rest), Rational.of(0)).halfUp()
  const order = [...rests.keys()].sort((a, b) => rests[b]!.cmp(rests[a]!) || a - b)
  for (const index of order) {
    if (left.lte(0)) break
    floors[index] = floors[index]!.plus(1)
    left = left.minus(1)
  }
  return floors.map((floor) => floor.div(unit))
}

interface Part {
  readonly charged: Charged
  readonly amount: Rational
  /** The taxes it is on top of. */
  readonly below: Rational
}

function taxed(
  lines: readonly Taxable[],
  rounding: 'line' | 'document',
  digits: number,
): readonly (Sums & { readonly parts: readonly Part[] })[] {
  if (rounding === 'line') return lines.map((line) => taxedAlone(line, digits))
  const parts: Part[][] = lines.map(() => [])
  const keys: string[] = []
  const name = ({ tax, rate }: Charged) => `${tax.id} ${rate.percent}`
  const visit = (charged: Charged) => {
    if (keys.includes(name(charged))) return
    for (const line of lines)
      for (const other of line.charged) if (charged.tax.upon.includes(other.tax.id)) visit(other)
    keys.push(name(charged))
  }
  for (const line of lines) for (const charged of line.charged) visit(charged)
  for (const key of keys) {
    const members = lines.flatMap((line, index) => {
      const charged = line.charged.find((each) => name(each) === key)
      return charged ? [{ line, index, charged }] : []
    })
    const exacts = members.map(({ line, index, charged }) => {
      if (line.basis === 'net')
        return line.amount.plus(belowOf(charged, parts[index]!)).times(charged.rate.percent).div(100)
      const share = partsOfNet(line.charged)[line.charged.indexOf(charged)]!
      return line.amount.times(share).div(grossFactor(line.charged))
    })
    share(exacts, digits).forEach((amount, place) => {
      const { index, charged } = members[place]!
      parts[index]!.push({ charged, amount, below: belowOf(charged, parts[index]!) })
    })
  }
  return lines.map((line, index) => sums(line, parts[index]!))
}

function taxedAlone(line: Taxable, digits: number): Sums & { readonly parts: readonly Part[] } {
  const parts: Part[] = []
  if (line.basis === 'net') {
    for (const charged of line.charged) {
      const below = belowOf(charged, parts)
      const amount = line.amount.plus(below).times(charged.rate.percent).div(100).round(digits)
      parts.push({ charged, amount, below })
    }
    return sums(line, parts)
  }
  const shares = partsOfNet(line.charged)
  const whole = line.amount.minus(line.amount.div(grossFactor(line.charged))).round(digits)
  const all = shares.reduce((sum, each) => sum.plus(each), Rational.of(0))
  const amounts = all.eq(0)
    ? shares
    : share(
        shares.map((each) => whole.times(each).div(all)),
        digits,
      )
  line.charged.forEach((charged, index) =>
    parts.push({ charged, amount: amounts[index]!, below: belowOf(charged, parts) }),
  )
  return sums(line, parts)
}

function belowOf({ tax }: Charged, parts: readonly Part[]): Rational {
  return parts
    .filter(({ charged }) => tax.upon.includes(charged.tax.id))
    .reduce((sum, { amount }) => sum.plus(amount), Rational.of(0))
}

function sums({ amount, basis }: Taxable, parts: readonly Part[]) {
  const tax = parts.reduce((sum, part) => sum.plus(part.amount), Rational.of(0))
  const net = basis === 'net' ? amount : amount.minus(tax)
  return { net, tax, gross: net.plus(tax), parts }
}

/** What delivery costs, by tax class: its own, or those of the goods by their net. */
function delivery(
  store: Store,
  asked: CartQuestion,
  goods: readonly { readonly taxClass: string | null; readonly net: Rational }[],
  digits: number,
): readonly { readonly amount: Rational; readonly taxClass: string | null }[] {
  const { deliveryPrice, deliveryFreeFrom, deliveryTaxClass, currency } = store.settings.get('settings')!
  if (deliveryPrice === null || goods.length === 0) return []
  const rate =
    asked.currency === currency ? Rational.of(1) : rateInto(store, currency, asked.currency!, asked.at)
  if (!rate) return []
  const into = (amount: string) =>
    asked.currency === currency ? Rational.of(amount) : rate.times(amount).round(digits)
  const net = goods.reduce((sum, each) => sum.plus(each.net), Rational.of(0))
  if (deliveryFreeFrom !== null && net.gte(into(deliveryFreeFrom))) return []
  const price = into(deliveryPrice)
  if (deliveryTaxClass !== null) return [{ amount: price, taxClass: deliveryTaxClass }]
  const classes = [...new Set(goods.map(({ taxClass }) => taxClass))]
  const nets = classes.map((taxClass) =>
    goods
      .filter((each) => each.taxClass === taxClass)
      .reduce((sum, each) => sum.plus(each.net), Rational.of(0)),
  )
  if (nets.every((each) => each.eq(0))) return [{ amount: price, taxClass: classes[0]! }]
  const all = nets.reduce((sum, each) => sum.plus(each), Rational.of(0))
  return share(
    nets.map((each) => price.times(each).div(all)),
    digits,
  ).map((amount, index) => ({ amount, taxClass: classes[index]! }))
}

function rateInto(store: Store, from: string, to: string, at: number): Rational | null {
  const holding = (per: string, currency: string) =>
    [...store['exchange-rate'].values()]
      .filter((each) => each.per === per && each.currency === currency && Date.parse(each.from) <= at)
      .sort((a, b) => Date.parse(a.from) - Date.parse(b.from))
      .at(-1)
  const direct = holding(from, to)
  if (direct) return Rational.of(direct.rate)
  const backwards = holding(to, from)
  return backwards ? Rational.of(1).div(backwards.rate) : null
}

function summed(parts: readonly Sums[]): Sums {
  const add = (field: keyof Sums) => parts.reduce((sum, each) => sum.plus(each[field]), Rational.of(0))
  return { net: add('net'), tax: add('tax'), gross: add('gross') }
}

function told({ net, tax, gross }: Sums): readonly [string, string, string] {
  return [net.toText(), tax.toText(), gross.toText()]
}
