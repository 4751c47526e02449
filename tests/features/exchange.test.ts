import Ajv2020 from 'ajv/dist/2020'
import { decimal } from '@/core/decimal/decimal'
import { ask } from '@/core/engine/ask'
import { RECORD_KINDS } from '@/core/issue/issue'
import { documentSchema } from '@/server/exchange/document-schema'
import { answerQuestions, type PriceAnswer } from '@/server/exchange/price-questions'
import { readDocument, toDocument } from '@/server/exchange/store-document'
import { lookAs, prepared, store } from '@tests/fixtures/demo-request'
import { randomStore } from '@tests/fixtures/random-store'
import { SMALL_DOCUMENT } from '@tests/fixtures/small-document'
import fc from 'fast-check'
import { readFileSync } from 'node:fs'

const NOW = Date.parse('2026-11-25T10:00:00Z')
type Fields = Record<string, unknown>

describe('the store document', () => {
  test('what is written is read back, to the last field, and written again the same', () => {
    fc.assert(
      fc.property(randomStore, (random) => {
        // Random rules may be for nobody or hold nothing, which a real store never does.
        const text = JSON.stringify(toDocument(random))
        const read = readDocument(JSON.parse(text))
        if (read.ok) expect(JSON.stringify(toDocument(read.store))).toBe(text)
      }),
      { numRuns: 50 },
    )
    const text = JSON.stringify(toDocument(store))
    const read = readDocument(JSON.parse(text))
    if (!read.ok) throw new Error(JSON.stringify(read.errors))
    expect(JSON.stringify(toDocument(read.store))).toBe(text)
    for (const kind of RECORD_KINDS)
      expect(Object.fromEntries(read.store[kind])).toEqual(Object.fromEntries(store[kind]))
  })

  test('what is usual may be left out', () => {
    const read = readDocument(SMALL_DOCUMENT)
    if (!read.ok) throw new Error(JSON.stringify(read.errors))
    expect(read.store.account.get('fennmoor')).toMatchObject({ groups: ['farms'], status: 'active' })
  })

  const errorsOf = (changed: Fields) => {
    const read = readDocument({ ...SMALL_DOCUMENT, ...changed })
    return read.ok ? [] : read.errors.map(({ code, where, value }) => `${code} ${where} ${value}`)
  }
  test.each<[string, Fields, string]>([
    ['an unknown section', { prices: [] }, 'unknown-field prices prices'],
    ['another version', { version: 2 }, 'malformed version 2'],
    [
      'an unknown field',
      { groups: [{ code: 'farms', name: 'Farms', colour: 'red' }] },
      'malformed groups[0].colour "red"',
    ],
    [
      'an amount with too many digits',
      { products: [{ ...SMALL_DOCUMENT.products[0], basePrice: '1.005' }] },
      'too-many-digits products[0].basePrice 1.005',
    ],
    [
      'a number where text stands',
      { products: [{ ...SMALL_DOCUMENT.products[0], basePrice: 25.9 }] },
      'malformed products[0].basePrice 25.9',
    ],
    [
      'a reference to nothing',
      { variants: [{ sku: 'FR-1', product: 'GONE' }] },
      'unknown variants FR-1.product GONE',
    ],
    [
      'one id twice',
      {
        groups: [
          { code: 'farms', name: 'A' },
          { code: 'farms', name: 'B' },
        ],
      },
      'duplicate groups[1].id farms',
    ],
    ['no settings', { settings: undefined }, 'missing settings nothing'],
  ])('%s is refused with its place', (_what, changed, expected) =>
    expect(errorsOf(changed)).toContain(expected),
  )

  test('another’s reading of the schema takes the document, and one that leaves out what may be', () => {
    const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(documentSchema())
    const faults = (document: unknown) => (validate(document) ? [] : validate.errors)
    for (const each of [prepared.store, ...fc.sample(randomStore, { numRuns: 30, seed: 17 })])
      expect(faults(JSON.parse(JSON.stringify(toDocument(each))))).toEqual([])
    expect(
      faults({
        format: 'steppe-store',
        version: 1,
        settings: { currency: 'EUR' },
        groups: [{ code: 'a', name: 'A' }],
      }),
    ).toEqual([])
    expect(faults({ format: 'steppe-store', version: 1, settings: {}, groups: [{ name: 'A' }] })).not.toEqual(
      [],
    )
  })

  test('the schema in docs is the one records are checked with', () =>
    expect(JSON.parse(readFileSync('docs/store-document.schema.json', 'utf8'))).toEqual(
      JSON.parse(JSON.stringify(documentSchema())),
    ))
})

describe('price questions', () => {
  const answersTo = (...questions: readonly Fields[]) =>
    answerQuestions(prepared, questions, NOW) as readonly PriceAnswer[]

  test('an answer is the engine’s, with the digits of its currency', () => {
    const [answer] = answersTo({ id: 'a', as: { account: 'fennmoor' }, sku: 'FR-BR-PF', quantity: '20' })
    expect(answer).toMatchObject({
      id: 'a',
      currency: 'EUR',
      see: true,
      seePrice: true,
      buy: true,
      unit: { net: '21.00', tax: '4.83', gross: '25.83' },
      total: { net: '420.00', tax: '96.60', gross: '516.60' },
      taxes: [{ tax: 'vat', percent: '23', on: '21.00', amount: '4.83' }],
      limits: { minimum: null, setBy: {} },
      was: { net: '25.90' },
      breaks: [
        { from: '1', unit: { net: '21.65' } },
        { from: '20', unit: { net: '21.00' } },
        { from: '100', unit: { net: '20.20' } },
      ],
      trace: { winner: { kind: 'list', contract: 'contract-C-104' } },
    })
    const asked = ask(prepared, {
      ...lookAs('account:fennmoor').buyerContext,
      variant: 'variant-FR-BR-PF',
      quantity: decimal(20),
      extras: [],
      basket: [],
    })
    expect(answer && 'trace' in answer && answer.trace).toEqual(asked.ok && asked.value.trace)
  })

  test('place, currency, extras and date are taken into account', () => {
    const [britain, yen, spring] = answersTo(
      { id: 'b', as: { guest: true }, sku: 'FR-BR-PF', deliverTo: { country: 'GB' }, extras: ['assembly'] },
      { id: 'n', as: { guest: true }, sku: 'HV-NAT-PF', currency: 'NOK' },
      { id: 's', as: { guest: true }, sku: 'HV-NAT-PF', at: '2027-03-02T00:00:00Z' },
    )
    expect(britain).toMatchObject({
      currency: 'GBP',
      unit: { net: '27.65' },
      extras: [{ code: 'assembly', unit: { net: '5.75' } }],
    })
    expect(yen).toMatchObject({ currency: 'NOK' })
    expect(spring).toMatchObject({ trace: { winner: { at: { list: 'list-spring-build-up' } } } })
  })

  test.each<[Fields, Fields]>([
    [{ as: { account: 'fenmoor' } }, { code: 'unknown-account', where: 'as.account', nearest: 'fennmoor' }],
    [{ sku: 'FR-BR-PX' }, { code: 'unknown-sku', where: 'sku', nearest: 'FR-BR-PA' }],
    [{ quantitty: 3 }, { code: 'unknown-field', where: 'quantitty', nearest: 'quantity' }],
    [{ quantity: '0' }, { code: 'bad-quantity', where: 'quantity' }],
    [{ quantity: '1,5' }, { code: 'bad-quantity', where: 'quantity' }],
    [{ currency: 'USD' }, { code: 'unknown-currency', where: 'currency' }],
    [{ channel: 'wep' }, { code: 'unknown-channel', nearest: 'web' }],
    [{ extras: ['branding'] }, { code: 'unknown-extra', where: 'extras' }],
    [{ at: '2027-03-01T00:00' }, { code: 'bad-instant', where: 'at' }],
    [{ as: {} }, { code: 'malformed', where: 'as' }],
    [{ as: { guest: true, account: 'fennmoor' } }, { code: 'malformed', where: 'as' }],
  ])('%j is refused with %j, and the next one is answered', (changed, error) => {
    const [refused, answered] = answersTo(
      { id: 'x', as: { guest: true }, sku: 'FR-BR-PF', ...changed },
      { id: 'y', as: { guest: true }, sku: 'FR-BR-PF' },
    )
    expect(refused).toMatchObject({ id: 'x', error })
    expect(answered).toMatchObject({ id: 'y', unit: { net: '25.90' } })
  })

  test('a cart is answered with its taxes, its sums and what stands in the way', () => {
    const [cart, hidden, review] = answersTo(
      {
        id: 'c',
        as: { account: 'tarnside' },
        lines: [{ sku: 'PK-BK-15', quantity: 7 }, { sku: 'BK-FY-PB' }],
        deliverTo: { country: 'AT' },
      },
      { id: 'h', as: { guest: true }, sku: 'QU-NU-5' },
      { id: 'r', as: { guest: true }, passcode: 'press', sku: 'FR-BR-PF' },
    )
    expect(cart).toMatchObject({
      canOrder: false,
      problems: [
        { kind: 'quantity', problem: { code: 'not-a-multiple', limit: '12' }, nearest: { above: '12' } },
      ],
      taxes: [
        { tax: 'vat', percent: '20' },
        { tax: 'vat', percent: '10' },
      ],
    })
    expect(review).toMatchObject({ see: true, buy: false, because: { code: 'review' } })
    if (!hidden || !('see' in hidden)) throw new Error(JSON.stringify(hidden))
    expect(hidden).toMatchObject({
      see: true,
      seePrice: false,
      buy: false,
      quote: true,
      unit: null,
      trace: null,
    })
    expect(JSON.stringify(hidden)).not.toMatch(/"(net|gross|amount)":"/)
  })

  test.each<[Fields, Fields]>([
    [{ lines: [] }, { code: 'malformed', where: 'lines' }],
    [{ lines: [{ sku: 'FR-BR-PX' }] }, { code: 'unknown-sku', where: 'lines.0.sku', nearest: 'FR-BR-PA' }],
    [{ lines: [{ sku: 'FR-BR-PF', quantity: '0' }] }, { code: 'bad-quantity', where: 'lines.0.quantity' }],
    [{ lines: [{ sku: 'FR-BR-PF', color: 1 }] }, { code: 'unknown-field', where: 'lines.0.color' }],
    [
      { lines: [{ sku: 'FR-BR-PF' }], passcode: 'pres' },
      { code: 'unknown-passcode', nearest: 'press' },
    ],
  ])('the cart %j is refused with %j', (changed, error) => {
    expect(answersTo({ id: 'x', as: { guest: true }, ...changed })[0]).toMatchObject({ id: 'x', error })
  })
})
