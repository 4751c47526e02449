import { add, decimal } from '@/core/decimal/decimal'
import type { OrderEvent } from '@/core/order/order-event'
import type { BuyerCode } from '@/core/buyers/buyer-code'
import { gatherPrices, makePriceList } from '@/features/documents/make-price-list'
import {
  priceListJson,
  priceListSheet,
  priceListTable,
  rowCountOf,
} from '@/features/documents/price-list-files'
import { sendOfferPaper, sendPaper } from '@/features/documents/send-paper'
import { answer } from '@/core/engine/ask'
import { taxPrice } from '@/core/engine/rules/find-tax'
import { NO_FACTS } from '@/core/promotions/facts'
import { pricingContextOf, toRequestContext } from '@/server/engine/request-context'
import type { Quote } from '@/server/quotes/quote-rows'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import { liveView } from '@/server/views/view'
import type { Order } from '@/server/orders/order-rows'
import { orderDocument } from '../fixtures/order-document'
import { demoSteppe } from './demo-steppe'
import { XMLParser } from 'fast-xml-parser'
import { extractText, getDocumentProxy } from 'unpdf'
import { parse } from 'csv-parse/sync'
import readExcel from 'read-excel-file/node'
import { writeFileSync } from 'node:fs'

const demo = demoSteppe()

/** What each page of a document says, read back by another library. */
async function pagesOf(
  order: Order | null,
  paper: string,
  number: string | null = null,
): Promise<readonly string[]> {
  const { store } = liveView(demo.current).prepared
  const response = await sendPaper(order, store, { paper, number })
  if (response.status !== 200)
    throw new Error(((await response.json()) as { error: { code: string } }).error.code)
  expect(response.headers.get('content-type')).toBe('application/pdf')
  const bytes = new Uint8Array(await response.arrayBuffer())
  // To be looked at: STEPPE_PAPERS=/some/directory
  if (process.env['STEPPE_PAPERS']) writeFileSync(`${process.env['STEPPE_PAPERS']}/${paper}.pdf`, bytes)
  const { text } = await extractText(await getDocumentProxy(bytes), { mergePages: false })
  return text
}

const words = (pages: readonly string[]) => pages.join(' ').replace(/\s+/g, ' ')

function order(lines: number, events: readonly OrderEvent[] = []): Order {
  const made = orderDocument(
    Array.from({ length: lines }, (_, at) => ({ variant: `SKU-${at + 1}`, quantity: decimal(at + 2) })),
  )
  const document = {
    ...made,
    reference: 'PO 2026/118',
    address: { ...made.address, street: 'Bóthar an Chlocháin 3', postcode: 'N91 X2Y3' },
    lines: made.lines.map((line, at) =>
      at === 0
        ? {
            ...line,
            name: 'Žlutý úl, größer',
            before: { net: decimal(12), gross: decimal('14.40') },
            promotions: ['Winter offer'],
          }
        : line,
    ),
  }
  return { number: 10_042, account: null, at: new Date('2026-11-25T10:00:00Z'), document, events }
}

const SENT: OrderEvent = {
  step: {
    kind: 'send',
    parts: [
      { line: 0, quantity: decimal(1) },
      { line: 1, quantity: decimal(3) },
    ],
    tracking: 'TN 4471',
  },
  ...{ at: Date.parse('2026-11-26T09:00:00Z'), author: 'Maeve', document: 7 },
}

test('a confirmation says every figure of the order, letters of other languages included', async () => {
  const said = words(await pagesOf(order(3), 'confirmation'))
  for (const part of [
    'Clover Tarn Apiary Supply',
    'VAT number IE7654321T',
    'Order confirmation 10042',
    '25 November 2026',
    'PO 2026/118',
    'on account, 45 days net',
    'Fennmoor Bóthar an Chlocháin 3 N91 X2Y3 Mullingar Ireland',
    'SKU-1 Žlutý úl, größer Winter offer 2 6.00 14.40 12.00',
    'SKU-3 Brood frames 4 6.00 12.00',
    'Goods, without tax 30.00',
    'Delivery, without tax 0.00',
    'VAT 20 % on 30.00 6.00',
    'Total €36.00',
    'Page 1 of 1',
  ])
    expect(said).toContain(part)
  // What the merchant pays for it is nobody else's business.
  expect(said).not.toMatch(/cost|margin|3\.00 /i)
})

test('a long one goes over several pages, with its head on each and every line once', async () => {
  const pages = await pagesOf(order(90), 'confirmation')
  expect(pages.length).toBeGreaterThan(2)
  pages.forEach((page, at) => expect(page).toContain(`Page ${at + 1} of ${pages.length}`))
  for (const page of pages.slice(0, -1))
    expect(page).toMatch(/SKU\s+Item\s+Quantity\s+Unit price\s+Line total/)
  const skus = pages.flatMap((page) => page.match(/SKU-\d+/g) ?? [])
  expect(skus).toEqual(Array.from({ length: 90 }, (_, at) => `SKU-${at + 1}`))
})

test('a delivery note says what is in the parcel and what follows, and no price', async () => {
  const said = words(await pagesOf(order(3, [SENT]), 'delivery-note', '7'))
  for (const part of [
    'Delivery note 7',
    '26 November 2026',
    '10042 of 25 November 2026',
    'TN 4471',
    'SKU-1 Žlutý úl, größer 2 1 1',
    'SKU-2 Brood frames 3 3 –',
    'SKU-3 Brood frames 4 0 4',
  ])
    expect(said).toContain(part)
  expect(said).not.toMatch(/€|12\.00|6\.00/)
})

const INVOICED: readonly OrderEvent[] = [
  {
    step: {
      kind: 'send',
      parts: [
        { line: 0, quantity: decimal(2) },
        { line: 1, quantity: decimal(3) },
        { line: 2, quantity: decimal(1) },
      ],
      tracking: '',
    },
    ...{ at: Date.parse('2026-11-26T09:00:00Z'), author: 'Maeve', document: 7 },
  },
  {
    step: { kind: 'cancel', reason: 'no more' },
    ...{ at: Date.parse('2026-11-27T09:00:00Z'), author: 'Maeve', document: null },
  },
  { step: { kind: 'invoice' }, at: Date.parse('2026-11-30T23:30:00Z'), author: 'Maeve', document: 12 },
  {
    step: {
      kind: 'return',
      parts: [{ line: 1, quantity: decimal(1) }],
      reason: 'Bent on arrival',
      restocks: false,
    },
    ...{ at: Date.parse('2026-12-05T09:00:00Z'), author: 'Maeve', document: 3 },
  },
]

test('an invoice says what was sent, what falls on it, and until when it is paid', async () => {
  const said = words(await pagesOf(order(3, INVOICED), 'invoice', '12'))
  for (const part of [
    'Invoice 12',
    'VAT number IE7654321T',
    'Date 30 November 2026',
    '10042 of 25 November 2026',
    // 45 days after 30 November.
    'Due on 14 January 2027',
    // Of what a promotion took something off, and of what does not come to its quantity times its price, no price each is told.
    'SKU-1 Žlutý úl, größer 2 – 10.00',
    'SKU-2 Brood frames 3 – 10.00',
    // One of four: a quarter of 10.00.
    'SKU-3 Brood frames 1 – 2.50',
    'Lines, without tax 22.50',
    'Total without tax 22.50',
    'VAT 20 % on 22.50 4.50',
    'Total €27.00',
  ])
    expect(said).toContain(part)
})

test('a credit note says what came back, why, and what is given back for it', async () => {
  const said = words(await pagesOf(order(3, INVOICED), 'credit-note', '3'))
  for (const part of [
    'Credit note 3',
    'Date 5 December 2026',
    'To invoice 12',
    'Reason Bent on arrival',
    // One of three at 10.00 and 2.00 of tax.
    'SKU-2 Brood frames 1 – 3.33',
    'VAT 20 % on 3.33 0.67',
    'Total €4.00',
  ])
    expect(said).toContain(part)
})

test.each([
  ['an invoice before there is one', order(1, [SENT]), 'invoice', '12', 'no-such-paper'],
  ['an order that is not there', null, 'confirmation', null, 'no-such-order'],
  ['a kind nobody knows', order(1), 'receipt', null, 'no-such-paper'],
  ['a delivery note of another order', order(1, [SENT]), 'delivery-note', '8', 'no-such-paper'],
  ['a delivery note without a number', order(1, [SENT]), 'delivery-note', null, 'no-such-paper'],
])('there is none: %s', async (_why, of, paper, number, code) => {
  await expect(pagesOf(of, paper, number)).rejects.toThrow(code)
})

/** Two honest lines, one of them at another rate, with delivery. */
function taxed(untaxed: Order['document']['untaxed'] = null): Order {
  const { document, ...rest } = order(2, [])
  const [one, two] = document.lines
  const line = (
    of: typeof one,
    unit: string,
    quantity: string,
    net: string,
    percent: string,
    tax: string,
  ) => ({
    ...of!,
    ...{ quantity: decimal(quantity), promotions: [], net: decimal(net), tax: decimal(tax) },
    unit: { net: decimal(unit), gross: decimal(unit) },
    gross: add(decimal(net), decimal(tax)),
    before: { net: decimal(net), gross: decimal(net) },
    taxes: tax === '0' ? [] : [{ name: 'VAT', percent: decimal(percent), amount: decimal(tax) }],
  })
  const free = untaxed !== null
  const lines = [
    line(one, '5', '4', '20', '23', free ? '0' : '4.60'),
    line(two, '10', '1', '10', '13.5', free ? '0' : '1.35'),
  ]
  // Delivery is taxed as the goods are: 6.00 at 23 %.
  const delivery = { net: decimal(6), tax: decimal(free ? '0' : '1.38'), gross: decimal(free ? '6' : '7.38') }
  const taxes = free
    ? []
    : [
        { name: 'VAT', percent: decimal(23), on: decimal(26), amount: decimal('5.98') },
        { name: 'VAT', percent: decimal('13.5'), on: decimal(10), amount: decimal('1.35') },
      ]
  const total = {
    ...{ net: decimal(36), tax: decimal(free ? '0' : '7.33') },
    gross: decimal(free ? '36' : '43.33'),
  }
  const parts = [
    { line: 0, quantity: decimal(4) },
    { line: 1, quantity: decimal(1) },
  ]
  const by = { at: Date.parse('2026-11-30T09:00:00Z'), author: 'Maeve' }
  const back = [{ line: 0, quantity: decimal(1) }]
  return {
    ...rest,
    document: { ...document, lines, delivery, taxes, total, untaxed, taxNumber: 'DE765432109' },
    events: [
      { ...by, document: 7, step: { kind: 'send', parts, tracking: '' } },
      { ...by, document: 12, step: { kind: 'invoice' } },
      { ...by, document: 3, step: { kind: 'return', parts: back, reason: 'Bent', restocks: true } },
    ],
  }
}

test('an invoice tells the buyer’s VAT number and what each piece costs', async () => {
  const said = words(await pagesOf(taxed(), 'invoice', '12'))
  for (const part of [
    'VAT number DE765432109',
    'Žlutý úl, größer 4 5.00 20.00',
    '1 10.00 10.00',
    'Total €43.33',
  ])
    expect(said).toContain(part)
})

/** An element of a document in UBL, by its names without their spaces. */
interface Element {
  readonly [name: string]: Element & Element[] & string
}

async function ublOf(of: Order, paper: string, number: string): Promise<Element> {
  const { store } = liveView(demo.current).prepared
  const response = await sendPaper(of, store, { paper, number }, 'ubl')
  const text = await response.text()
  if (response.status !== 200) throw new Error(text)
  expect(response.headers.get('content-type')).toBe('application/xml')
  const lists = ['InvoiceLine', 'CreditNoteLine', 'TaxSubtotal', 'AllowanceCharge']
  const parser = new XMLParser({
    ...{ ignoreAttributes: true, removeNSPrefix: true, parseTagValue: false, processEntities: false },
    isArray: (name) => lists.includes(name),
  })
  const parsed = parser.parse(text.replace(/^<\?xml.*\?>/, '')) as Record<string, Element>
  return Object.values(parsed)[0]!
}

const cents = (text: string) => Math.round(Number(text) * 100)
const total = (texts: readonly string[]) => texts.reduce((sum, text) => sum + cents(text), 0)

// Source: EN 16931-1 BR-CO-10, -13, -14, -15, -16, -17 and BR-S-08, from memory.
test.each([
  ['an invoice', 'invoice', '12', 'InvoiceLine'],
  ['a credit note', 'credit-note', '3', 'CreditNoteLine'],
])('%s in UBL keeps the sums of the European standard', async (_what, paper, number, lines) => {
  const made = await ublOf(taxed(), paper, number)
  const sums = made['LegalMonetaryTotal']!
  const charges = (made['AllowanceCharge'] ?? []) as readonly Element[]
  const taxes = made['TaxTotal']!['TaxSubtotal']! as readonly Element[]
  const nets = (made[lines]! as readonly Element[]).map((line) => line['LineExtensionAmount']!)
  const tax = cents(made['TaxTotal']!['TaxAmount']!)
  const goods = cents(sums['LineExtensionAmount']!)
  const before = cents(sums['TaxExclusiveAmount']!)
  expect(total(nets)).toBe(goods)
  expect(goods + total(charges.map((each) => each['Amount']!))).toBe(before)
  expect(total(taxes.map((each) => each['TaxAmount']!))).toBe(tax)
  expect(before + tax).toBe(cents(sums['TaxInclusiveAmount']!))
  expect(sums['PayableAmount']).toBe(sums['TaxInclusiveAmount'])
  for (const each of taxes) {
    const exact = (cents(each['TaxableAmount']!) * Number(each['TaxCategory']!['Percent'])) / 100
    expect(cents(each['TaxAmount']!)).toBe(Math.round(exact))
  }
})

test('what a buyer accounts for themselves says so in UBL, and several taxes on a line are refused', async () => {
  const made = await ublOf(taxed('reverse-charge'), 'invoice', '12')
  const [tax] = made['TaxTotal']!['TaxSubtotal']! as readonly Element[]
  const category = { ID: 'AE', Percent: '0', TaxExemptionReason: 'Reverse charge' }
  expect(tax!['TaxCategory']).toMatchObject(category)
  expect(made['DueDate']).toBe('2027-01-14')
  const { document, ...rest } = taxed()
  const twice = document.lines.map((line) => ({ ...line, taxes: [...line.taxes, ...line.taxes] }))
  const several = ublOf({ ...rest, document: { ...document, lines: twice } }, 'invoice', '12')
  await expect(several).rejects.toThrow('several-taxes')
  await expect(ublOf(taxed(), 'invoice', '99')).rejects.toThrow('no-such-paper')
})

describe('a price list as a PDF file', () => {
  const AT = Date.parse('2026-11-25T10:00:00Z')
  /** What it says for somebody, in a branch. */
  async function listFor(as: BuyerCode, category: string | null) {
    const look = toRequestContext(liveView(demo.current), { ...DEFAULT_VANTAGE, as }, AT)
    const made = await makePriceList(look, category)
    if (!made.ok) throw new Error(made.code)
    const { text } = await extractText(await getDocumentProxy(new Uint8Array(made.paper.content)), {
      mergePages: false,
    })
    return text
  }

  test('says what that buyer pays, from which quantity on, and on which day', async () => {
    const said = words(await listFor('account:fennmoor', 'frames'))
    for (const part of [
      'Fennmoor Honey Farm',
      'Valid on 25 November 2026',
      'in EUR, without tax',
      'FR-BR-PF Brood frames, Pine, flat-packed, 10',
      // From 12 they pay 21.65, and from 20 on 21.00.
      '20 21.00',
      'Page 1 of',
    ])
      expect(said).toContain(part)
    expect(words(await listFor('guest', 'frames'))).toContain('in EUR, with tax')
  })

  test('holds every page of everything that is shown, and nothing that is not', async () => {
    const pages = await listFor('account:fennmoor', null)
    expect(pages.length).toBeGreaterThan(5)
    expect(pages.at(-1)).toContain(`Page ${pages.length} of ${pages.length}`)
    // Guests are shown no price of colonies.
    const { store } = liveView(demo.current).prepared
    const nuclei = [...store.category.values()].find(({ code }) => code === 'nuclei')!
    const hidden = [...store.product.values()].filter(({ categories }) => categories.includes(nuclei.id))
    const said = words(await listFor('guest', null))
    for (const { name } of hidden) expect(said).not.toContain(` ${name} `)
  })

  test('of a branch that is not there, or shows nothing, there is none', async () => {
    await expect(listFor('guest', 'no-such')).rejects.toThrow('unknown-category')
    await expect(listFor('guest', 'nuclei')).rejects.toThrow('nothing')
  })
})

describe('a price list as a file for programs', () => {
  const AT = Date.parse('2026-11-25T10:00:00Z')
  async function gathered(as: BuyerCode, category: string | null) {
    const look = toRequestContext(liveView(demo.current), { ...DEFAULT_VANTAGE, as }, AT)
    const made = await gatherPrices(look, category, 100_000)
    if (!made.ok) throw new Error(made.code)
    return made.list
  }

  test('CSV read by another reader says what the buyer pays, a row a price', async () => {
    const list = await gathered('account:fennmoor', 'frames')
    const text = priceListTable(list).replace(/^\uFEFF/, '')
    const [head, ...rows] = parse(text) as string[][]
    expect(head).toEqual([
      ...[
        'SKU',
        'GTIN',
        'Item',
        'Category',
        'From quantity',
        'Price EUR without tax',
        'Per unit EUR',
        'Unit',
      ],
    ])
    const frames = rows.filter(([sku]) => sku === 'FR-BR-PF')
    expect(frames.map(([, , , , from, price]) => [from, price])).toEqual([
      ['1', '21.65'],
      ['20', '21'],
      ['100', '20.2'],
    ])
    expect(frames[0]?.[1]).toMatch(/^20\d{11}$/)
    expect(rows.length).toBe(rowCountOf(list))
  })

  test.each(['guest', 'account:fennmoor', 'group:distributors'] as const)(
    'every price %s reads is what that quantity costs them',
    async (as) => {
      const { items } = await gathered(as, null)
      const view = liveView(demo.current)
      const look = toRequestContext(view, { ...DEFAULT_VANTAGE, as }, AT)
      const context = pricingContextOf(view.prepared, look.buyerContext)
      const idOf = new Map([...view.prepared.store.variant.values()].map(({ sku, id }) => [sku, id]))
      let compared = 0
      for (const { sku, prices } of items)
        for (const { from, price } of prices) {
          const asked = answer(view.prepared, {
            ...look.buyerContext,
            ...{ variant: idOf.get(sku)!, quantity: from, extras: [], basket: [], promotions: NO_FACTS },
          })
          if (!asked.ok) throw new Error(sku)
          const { promoted, unit, basis } = asked.value
          const amount = promoted?.unit
            ? { amount: promoted.unit, basis: promoted.basis }
            : { amount: unit!, basis }
          const number = view.prepared.index.numberOf.get(idOf.get(sku)!)!
          const taxed = taxPrice(view.prepared, context, number, amount)
          expect([sku, from, price]).toEqual([sku, from, as === 'guest' ? taxed.gross : taxed.net])
          compared += 1
        }
      expect(compared).toBeGreaterThan(250)
    },
  )

  test('XLSX has numbers where prices are, and holds the same', async () => {
    const list = await gathered('account:fennmoor', 'frames')
    const [sheet] = await readExcel(Buffer.from(await priceListSheet(list)))
    const rows = sheet!.data
    const row = rows.find(([sku, , , , from]) => sku === 'FR-BR-PF' && from === 20)
    expect(row?.[5]).toBe(21)
    expect(rows.length).toBe(rowCountOf(list) + 1)
  })

  test('JSON says for whom, when, with which tax; nobody reads what they are not shown', async () => {
    const list = await gathered('guest', null)
    const told = JSON.parse(priceListJson(list)) as { readonly items: readonly { readonly sku: string }[] }
    expect(told).toMatchObject({
      ...{ format: 'steppe-price-list', version: 1, currency: 'EUR', basis: 'gross', category: null },
      at: '2026-11-25T10:00:00.000Z',
    })
    const { store } = liveView(demo.current).prepared
    const nuclei = [...store.category.values()].find(({ code }) => code === 'nuclei')!
    const hidden = [...store.variant.values()].filter(({ product }) =>
      store.product.get(product)!.categories.includes(nuclei.id),
    )
    expect(hidden.length).toBeGreaterThan(0)
    const skus = new Set(told.items.map(({ sku }) => sku))
    for (const { sku } of hidden) expect(skus).not.toContain(sku)
  })
})

test('an offer says what is offered for what, beside their own price, and until when', async () => {
  const { prepared } = liveView(demo.current)
  const { document } = order(1)
  const line = {
    ...{
      variant: 'variant-FR-BR-PF',
      sku: 'FR-BR-PF',
      name: 'Brood frames',
      extras: [],
      quantity: decimal(48),
    },
    ...{ asked: 0, insteadOf: null, note: 'All at once', their: decimal('22.80'), price: decimal('21.45') },
    ...{ net: decimal('1029.60'), gross: decimal('1266.41'), cost: decimal('13.10'), trace: [] },
  }
  const other = {
    ...line,
    sku: 'FR-BR-PA',
    name: 'Assembled frames',
    insteadOf: 0,
    note: '',
    price: decimal(30),
  }
  const offer = {
    lines: [line, other],
    until: '2026-12-09',
    terms: '30 days net',
    delivery: 'in May',
    document,
  }
  const quote: Quote = {
    ...{ number: 1042, account: 'account-gorseback', visitor: null, working: null, workingVersion: 0 },
    at: new Date('2026-11-24T10:00:00Z'),
    request: {
      ...{
        version: 1,
        currency: 'EUR',
        digits: 2,
        priceDigits: 2,
        basis: 'net',
        channel: null,
        askedBy: null,
      },
      ...{ buyer: 'Gorseback Bees', asker: 'Orla Duggan', email: '', address: document.address, lines: [] },
      ...{ neededBy: '', message: '', terms: '' },
    },
    events: [{ step: { kind: 'offer', offer, message: '' }, at: Date.parse('2026-11-25'), author: 'Maeve' }],
  }
  const response = await sendOfferPaper(quote, prepared, Date.parse('2026-11-25T10:00:00Z'))
  const { text } = await extractText(await getDocumentProxy(new Uint8Array(await response.arrayBuffer())), {
    mergePages: false,
  })
  const said = words(text)
  for (const part of [
    ...['Offer Q-1042', 'Valid until 9 December 2026', 'Delivery in May', 'on account, 30 days net'],
    ...['Brood frames All at once 48', '22.80 21.45', '1,029.60', 'Or instead', 'instead of Brood frames'],
  ])
    expect(said).toContain(part)
  expect(said).not.toContain('13.10')
  expect((await sendOfferPaper({ ...quote, events: [] }, prepared, 0)).status).toBe(404)
})
