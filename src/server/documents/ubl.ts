import 'server-only'

import { add, compare, type Decimal, isPositive, subtract, sum, toFixed, ZERO } from '@/core/decimal/decimal'
import { divide } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { lastDays, readTerms } from '@/core/order/due-date'
import { creditNoteOf, type Invoice, invoiceOf } from '@/core/order/invoice'
import type { OrderLine } from '@/core/order/order'
import { standingOf } from '@/core/order/standing'
import type { Settings } from '@/core/store/store'
import { XMLBuilder } from 'fast-xml-parser'
import type { Order } from '../orders/order-rows'

/** One tax category, as EN 16931 has them: S at a rate, Z none, AE reverse charge, E exempt. */
interface Category {
  readonly id: 'S' | 'Z' | 'AE' | 'E'
  readonly percent: Decimal
}

export type UblResult =
  | { readonly ok: true; readonly xml: string }
  /** There is no such invoice or credit note. */
  | { readonly ok: false; readonly code: 'none' }
  /** A line carries several taxes, or one on another: the format has one value added tax on each. */
  | { readonly ok: false; readonly code: 'several-taxes' }

/** A unit price has at most so many digits. */
const PRICE_DIGITS = 6
const NAMESPACES = {
  '@_xmlns:cac': 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2',
  '@_xmlns:cbc': 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2',
}
const REASONS: Readonly<Partial<Record<Category['id'], string>>> = {
  AE: 'Reverse charge',
  E: 'Exempt by certificate',
}

/**
 * An invoice or credit note as UBL 2.1, with the figures of the European standard for electronic invoices.
 *
 * Source  EN 16931-1 (business terms and rules BR-CO-10, -13, -14, -15, -16) and OASIS UBL 2.1, from memory.
 */
export function invoiceUbl(
  order: Order,
  settings: Settings,
  {
    kind,
    number,
    isoDay,
  }: {
    readonly kind: 'invoice' | 'credit-note'
    readonly number: number
    readonly isoDay: (at: number) => string
  },
): UblResult {
  const { document, events } = order
  const invoice =
    kind === 'invoice' ? invoiceOf(document, events, number) : creditNoteOf(document, events, number)
  if (!invoice) return { ok: false, code: 'none' }
  const isCredit = kind === 'credit-note'
  const categories = invoice.lines.map(({ line }) => categoryOf(order, document.lines[line] as OrderLine))
  const charges = chargesOf(order, invoice, categories)
  if (categories.includes(null) || charges === null) return { ok: false, code: 'several-taxes' }
  const { currency, digits, payment } = document
  const money = (amount: Decimal) => ({ '#text': toFixed(amount, digits), '@_currencyID': currency })
  const lineTotal = sum(invoice.lines.map(({ amount }) => amount.net))
  const chargeTotal = sum(charges.map(({ net }) => net))
  const terms = readTerms(payment)
  const due = terms ? lastDays(terms, isoDay(invoice.at)).due : null
  const root = isCredit ? 'CreditNote' : 'Invoice'
  const content = {
    [root]: {
      '@_xmlns': `urn:oasis:names:specification:ubl:schema:xsd:${root}-2`,
      ...NAMESPACES,
      'cbc:CustomizationID': 'urn:cen.eu:en16931:2017',
      'cbc:ID': String(number),
      'cbc:IssueDate': isoDay(invoice.at),
      ...(due !== null && !isCredit ? { 'cbc:DueDate': due } : {}),
      [isCredit ? 'cbc:CreditNoteTypeCode' : 'cbc:InvoiceTypeCode']: isCredit ? '381' : '380',
      ...(invoice.reason === '' ? {} : { 'cbc:Note': invoice.reason }),
      'cbc:DocumentCurrencyCode': currency,
      ...(document.reference === '' ? {} : { 'cbc:BuyerReference': document.reference }),
      'cac:OrderReference': {
        'cbc:ID': document.reference || String(order.number),
        'cbc:SalesOrderID': String(order.number),
      },
      ...(isCredit ? billingReference(order) : {}),
      'cac:AccountingSupplierParty': { 'cac:Party': supplier(settings) },
      'cac:AccountingCustomerParty': { 'cac:Party': customer(order) },
      'cac:PaymentTerms': { 'cbc:Note': payment === 'card' ? 'Paid by card' : payment },
      ...(charges.length === 0
        ? {}
        : {
            'cac:AllowanceCharge': charges.map(({ net, category }) => ({
              'cbc:ChargeIndicator': 'true',
              'cbc:AllowanceChargeReason': 'Delivery and way of paying',
              'cbc:Amount': money(net),
              'cac:TaxCategory': taxCategory(category),
            })),
          }),
      'cac:TaxTotal': {
        'cbc:TaxAmount': money(invoice.total.tax),
        'cac:TaxSubtotal': subtotals(order, invoice, categories as readonly Category[], charges).map(
          ({ category, taxable, tax }) => ({
            'cbc:TaxableAmount': money(taxable),
            'cbc:TaxAmount': money(tax),
            'cac:TaxCategory': { ...taxCategory(category), ...exemption(category) },
          }),
        ),
      },
      'cac:LegalMonetaryTotal': {
        'cbc:LineExtensionAmount': money(lineTotal),
        'cbc:TaxExclusiveAmount': money(add(lineTotal, chargeTotal)),
        'cbc:TaxInclusiveAmount': money(invoice.total.gross),
        'cbc:ChargeTotalAmount': money(chargeTotal),
        'cbc:PayableAmount': money(invoice.total.gross),
      },
      [isCredit ? 'cac:CreditNoteLine' : 'cac:InvoiceLine']: invoice.lines.map(
        ({ line, quantity, amount }, at) => {
          const { name, sku } = document.lines[line] as OrderLine
          const price = roundToDigits(divide(amount.net, quantity), PRICE_DIGITS, 'half-up')
          return {
            'cbc:ID': String(at + 1),
            [isCredit ? 'cbc:CreditedQuantity' : 'cbc:InvoicedQuantity']: {
              '#text': quantity,
              '@_unitCode': 'C62',
            },
            'cbc:LineExtensionAmount': money(amount.net),
            'cac:Item': {
              'cbc:Name': name,
              'cac:SellersItemIdentification': { 'cbc:ID': sku },
              'cac:ClassifiedTaxCategory': taxCategory(categories[at] as Category),
            },
            'cac:Price': { 'cbc:PriceAmount': { '#text': price, '@_currencyID': currency } },
          }
        },
      ),
    },
  }
  const builder = new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true })
  return { ok: true, xml: `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build(content)}` }
}

function billingReference({ document, events }: Order) {
  const { invoice } = standingOf(document, events)
  return invoice === null
    ? {}
    : { 'cac:BillingReference': { 'cac:InvoiceDocumentReference': { 'cbc:ID': String(invoice) } } }
}

/** The category of a line; `null` where it carries several taxes. */
function categoryOf({ document }: Order, line: OrderLine): Category | null {
  if (document.untaxed === 'reverse-charge') return { id: 'AE', percent: ZERO }
  if (document.untaxed === 'certificate') return { id: 'E', percent: ZERO }
  const taxed = line.taxes.filter(({ percent }) => isPositive(percent))
  if (taxed.length > 1) return null
  return taxed[0] ? { id: 'S', percent: taxed[0].percent } : { id: 'Z', percent: ZERO }
}

interface Charge {
  readonly net: Decimal
  readonly category: Category
}

/** Delivery and what was charged, by the tax it falls under; `null` where a tax falls on another. */
function chargesOf(
  order: Order,
  invoice: Invoice,
  categories: readonly (Category | null)[],
): readonly Charge[] | null {
  const whole = add(invoice.delivery.net, invoice.paymentCharge.net)
  if (whole === ZERO) return []
  const { untaxed } = order.document
  if (untaxed !== null)
    return [{ net: whole, category: { id: untaxed === 'certificate' ? 'E' : 'AE', percent: ZERO } }]
  const taxed = invoice.taxes.filter(({ percent }) => isPositive(percent))
  if (taxed.some(({ on }) => on === null)) return null
  const charges = taxed.map(({ percent, on }): Charge => {
    const ofLines = sum(
      invoice.lines.flatMap(({ amount }, at) => (categories[at]?.percent === percent ? [amount.net] : [])),
    )
    return { net: subtract(on as Decimal, ofLines), category: { id: 'S', percent } }
  })
  const rest = subtract(whole, sum(charges.map(({ net }) => net)))
  // What no tax falls on.
  const all =
    rest === ZERO ? charges : [...charges, { net: rest, category: { id: 'Z', percent: ZERO } as const }]
  return all.filter(({ net }) => net !== ZERO)
}

function subtotals(
  { document }: Order,
  invoice: Invoice,
  categories: readonly Category[],
  charges: readonly Charge[],
): readonly { readonly category: Category; readonly taxable: Decimal; readonly tax: Decimal }[] {
  const nets = new Map<string, { readonly category: Category; readonly taxable: Decimal }>()
  const count = (category: Category, net: Decimal) => {
    const key = `${category.id} ${category.percent}`
    nets.set(key, { category, taxable: add(nets.get(key)?.taxable ?? ZERO, net) })
  }
  invoice.lines.forEach(({ amount }, at) => count(categories[at] as Category, amount.net))
  for (const { category, net } of charges) count(category, net)
  return [...nets.values()]
    .sort((one, other) => compare(other.category.percent, one.category.percent))
    .map(({ category, taxable }) => ({
      ...{ category, taxable },
      tax:
        document.untaxed === null
          ? sum(
              invoice.taxes.flatMap(({ percent, amount }) => (percent === category.percent ? [amount] : [])),
            )
          : ZERO,
    }))
}

function taxCategory({ id, percent }: Category) {
  return { 'cbc:ID': id, 'cbc:Percent': percent, 'cac:TaxScheme': { 'cbc:ID': 'VAT' } }
}

function exemption({ id }: Category) {
  const reason = REASONS[id]
  return reason === undefined ? {} : { 'cbc:TaxExemptionReason': reason }
}

function supplier(settings: Settings) {
  const registration = settings.taxRegistrations[settings.country]
  return {
    'cac:PostalAddress': { 'cac:Country': { 'cbc:IdentificationCode': settings.country } },
    ...(registration ? taxScheme(registration) : {}),
    'cac:PartyLegalEntity': { 'cbc:RegistrationName': settings.name },
  }
}

function customer({ document: { buyer, address, taxNumber } }: Order) {
  const { street, city, postcode, country } = address
  return {
    'cac:PostalAddress': {
      ...(street === '' ? {} : { 'cbc:StreetName': street }),
      ...(city === '' ? {} : { 'cbc:CityName': city }),
      ...(postcode === '' ? {} : { 'cbc:PostalZone': postcode }),
      'cac:Country': { 'cbc:IdentificationCode': country },
    },
    ...(taxNumber === '' ? {} : taxScheme(taxNumber)),
    'cac:PartyLegalEntity': { 'cbc:RegistrationName': buyer },
  }
}

function taxScheme(number: string) {
  return { 'cac:PartyTaxScheme': { 'cbc:CompanyID': number, 'cac:TaxScheme': { 'cbc:ID': 'VAT' } } }
}
