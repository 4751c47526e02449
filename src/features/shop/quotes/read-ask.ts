import 'server-only'

import type { Account } from '@/core/buyers/buyer'
import { priceCart } from '@/core/cart/price-cart'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { itemName } from '@/core/catalogue/product'
import { type Decimal, decimal, isPositive, parseDecimal, scaleOf } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import { displayOf } from '@/core/engine/rules/find-tax'
import { findTextFault } from '@/core/issue/text-fault'
import type { OrderAddress } from '@/core/order/order'
import { localDay } from '@/core/predicates/schedule-outlook'
import type { AskedLine, QuoteRequest } from '@/core/quote/quote'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { getSettings } from '@/core/store/store'
import { addressesOf } from '@/server/orders/addresses-of'
import type { OrderOwner } from '@/server/orders/order-rows'
import { cartOfVisitor, ownerOf, type ShopVisitor } from '@/server/session/shop-session'
import { isEmail } from '@/core/buyers/email'
import { MALFORMED_EMAIL, readAddress } from '../checkout/read-address'
import { loadResolved, parseRows } from '../quick/load-resolved'
import { isEmpty, type QuickRow } from '../quick/quick-rows'

const LONGEST_MESSAGE = 4_000

export type ReadAsk =
  | { readonly ok: true; readonly request: QuoteRequest; readonly owner: OrderOwner }
  | { readonly ok: false; readonly problems: Readonly<Record<string, string>> }

/** Reads a request for a quote, and what each item costs its buyer at this moment. */
export async function readAsk(
  visitor: ShopVisitor,
  submitted: readonly QuickRow[],
  typed: Readonly<Record<string, string>>,
): Promise<ReadAsk> {
  const { prepared, pricingContext, buyerContext } = visitor
  const { store } = prepared
  const problems: Record<string, string> = {}
  const rows = parseRows(submitted)?.filter((row) => !isEmpty(row))
  if (!rows) return { ok: false, problems: { all: 'These are too many rows at once. Split them.' } }
  if (rows.length === 0) return { ok: false, problems: { all: 'Say which items it is about.' } }
  const resolved = await loadResolved(visitor, rows, 'quote')
  const wrong = resolved.rows.filter(({ kind }) => kind !== 'ready').length
  if (wrong > 0)
    problems['all'] =
      `${wrong} ${wrong === 1 ? 'line needs' : 'lines need'} a look first: see beside ${wrong === 1 ? 'it' : 'them'}.`
  const wishes = rows.map(({ wish = '' }) => readWish(wish, pricingContext.digits))
  const unread = wishes.indexOf('unreadable')
  if (unread >= 0)
    problems['all'] ??=
      `“${rows[unread]?.wish ?? ''}” is not a price: write it like 12.50, with at most ${pricingContext.digits} decimals.`
  const neededBy = typed['neededBy'] ?? ''
  const today = localDay(buyerContext.at, getSettings(store).timeZone)
  if (neededBy !== '' && !isDate(neededBy)) problems['neededBy'] = 'Choose a day.'
  else if (neededBy !== '' && neededBy < today) problems['neededBy'] = 'This day is past. Choose a later one.'
  const message = (typed['message'] ?? '').trim()
  if (message.length > LONGEST_MESSAGE)
    problems['message'] = `This is too long: at most ${LONGEST_MESSAGE} characters.`
  if (findTextFault(typed, 2)) problems['all'] ??= 'Something you typed holds characters that are not text.'
  const { buyer } = buyerContext
  const account = buyer.kind === 'account' ? store.account.get(buyer.account) : undefined
  const who = account ? readAccount(visitor, account, typed) : readGuest(visitor, typed, problems)
  if (!who || Object.keys(problems).length > 0) return { ok: false, problems }
  const basis = displayOf(prepared, pricingContext, 'cart') === 'gross' ? 'gross' : 'net'
  const asked = rows.map((row, at) => toWanted(visitor, row, wishes[at] as Decimal | null))
  const priced = priceCart(prepared, {
    ...buyerContext,
    lines: asked.map(({ variant, quantity, extras }) => ({
      ...{ variant, quantity },
      extras: extras.map(({ id }) => id),
    })),
    past: [],
    promotions: null,
  })
  const lines = asked.map((line, at): AskedLine => {
    const found = priced.ok ? priced.value.lines[at] : undefined
    return { ...line, their: found?.access.seePrice ? (found.unitAmount?.[basis] ?? null) : null }
  })
  const owner = ownerOf(visitor)
  return {
    ok: true,
    // A guest finds it again by the window they asked from.
    owner: owner.account === null ? { account: null, visitor: await cartOfVisitor() } : owner,
    request: {
      version: 1,
      currency: pricingContext.currency,
      digits: findMinorDigits(pricingContext.currency) ?? 2,
      priceDigits: pricingContext.digits,
      basis,
      channel: buyerContext.channel,
      ...who,
      askedBy: null,
      lines,
      neededBy,
      message,
      terms: paymentTermsOf(pricingContext),
    },
  }
}

type Who = Pick<QuoteRequest, 'buyer' | 'asker' | 'email' | 'address'>

function readAccount(
  { person }: ShopVisitor,
  account: Account,
  typed: Readonly<Record<string, string>>,
): Who {
  const addresses = addressesOf(account)
  const { name } = account
  return {
    buyer: name,
    asker: person?.name ?? name,
    email: person?.email ?? account.emails[0] ?? '',
    address: addresses[Number(typed['address'] ?? 0)] ?? (addresses[0] as OrderAddress),
  }
}

/** A guest says who they are, and where it goes. */
function readGuest(
  { prepared }: ShopVisitor,
  typed: Readonly<Record<string, string>>,
  problems: Record<string, string>,
): Who | null {
  const read = readAddress(prepared.store, typed)
  Object.assign(problems, read.problems)
  const email = typed['email'] ?? ''
  if (!isEmail(email)) problems['email'] = MALFORMED_EMAIL
  if (Object.keys(problems).length > 0) return null
  const { name } = read.address
  return { buyer: name, asker: name, email, address: read.address }
}

function readWish(typed: string, digits: number): Decimal | null | 'unreadable' {
  if (typed.trim() === '') return null
  const wish = parseDecimal(typedAmount(typed))
  return wish && isPositive(wish) && scaleOf(wish) <= digits ? wish : 'unreadable'
}

function isDate(text: string): boolean {
  return /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text))
}

/** Errors  throws for a row that is not ready: it is looked at before. */
function toWanted(
  { prepared: { store } }: ShopVisitor,
  row: QuickRow,
  wish: Decimal | null,
): Omit<AskedLine, 'their'> {
  const variant = findBySku(store.variant, row.sku.trim())
  const product = store.product.get(variant?.product ?? '')
  if (!variant || !product) throw new RangeError(`${row.sku} is asked for and is not there`)
  return {
    ...{ variant: variant.id, sku: variant.sku, name: itemName(product, variant), wish },
    quantity: decimal(row.quantity.trim()),
    extras: (row.extras ?? []).flatMap((code) => {
      const extra = findByCode(store.extra, code)
      return extra ? [{ id: extra.id, name: extra.name }] : []
    }),
  }
}
