import { RECORD_FIELDS } from '@/sheet/fields/record-fields'
import { fieldPhrase, type Fields } from '@/sheet/fields/field-rule'
import { beginning } from '@/sheet/record/new-record'
import { fieldsOf } from '@/sheet/record/sentence/sentence'
import type { EditableKind } from '@/sheet/record/sections'
import { SHEETS } from '@/app/(merchant)/[section]/sheets'
import { PRODUCT_FIELDS } from '@/features/products/product-view'
import { store } from '@tests/fixtures/demo-request'
import { randomStore } from '@tests/fixtures/random-store'
import type { Store } from '@/core/store/store'
import fc from 'fast-check'

// Drawn in the browser only.
jest.mock('@/ui/chart/line-chart', () => ({ LineChart: () => null }))

const KINDS = Object.keys(SHEETS) as EditableKind[]

/** Fields that stand in the title, or in a drawing of their own on the sheet. */
function isElsewhere(kind: EditableKind, field: string): boolean {
  return (
    field === 'name' ||
    (kind === 'variant' && field === 'sku') ||
    (kind === 'product' && PRODUCT_FIELDS.some((each) => each.field === field)) ||
    (kind === 'account' && (field === 'addresses' || field === 'people'))
  )
}

/** What cannot be reached from the sheet of a record: no word opens it. */
function unreachable(from: Store, kind: EditableKind, record: Fields): readonly string[] {
  const { sentence, details } = SHEETS[kind]
  const said = new Set([...fieldsOf(sentence(record, from)), ...fieldsOf(details(record, from))])
  return RECORD_FIELDS[kind]
    .map(({ field }) => field)
    .filter((field) => !said.has(field) && !isElsewhere(kind, field))
}

function recordsOf(from: Store, kind: EditableKind): readonly Fields[] {
  return [...from[kind].values()] as unknown as Fields[]
}

test.each(KINDS)('every field of every %s has a word in its sentence', (kind) => {
  for (const record of [...recordsOf(store, kind), ...(kind === 'settings' ? [] : [beginning(store, kind)])])
    expect(unreachable(store, kind, record)).toEqual([])
})

test('in random stores too', () => {
  fc.assert(
    fc.property(randomStore, (from) => {
      for (const kind of KINDS)
        for (const record of recordsOf(from, kind)) expect(unreachable(from, kind, record)).toEqual([])
    }),
    { numRuns: 30 },
  )
})

test.each(KINDS)('every word of a %s is of a field, and says something', (kind) => {
  const { sentence, details } = SHEETS[kind]
  const fields = new Map(RECORD_FIELDS[kind].map((rule) => [rule.field, rule]))
  for (const record of recordsOf(store, kind))
    for (const part of [...sentence(record, store), ...details(record, store)]) {
      if (typeof part === 'string') continue
      const rule = fields.get(part.field)
      expect(rule).toBeDefined()
      const words = part.words || fieldPhrase(rule!, record, store)
      expect([part.field, words]).not.toEqual([part.field, ''])
    }
})

test('a sentence of each kind reads as one', () => {
  const text = (kind: EditableKind, code: string) => {
    const record = recordsOf(store, kind).find((each) => (each['code'] ?? each['sku']) === code)!
    const fields = new Map(RECORD_FIELDS[kind].map((rule) => [rule.field, rule]))
    return SHEETS[kind]
      .sentence(record, store)
      .map((part) =>
        typeof part === 'string' ? part : part.words || fieldPhrase(fields.get(part.field)!, record, store),
      )
      .join('')
  }
  expect(text('adjustment', 'november-week')).toBe(
    'It is switched on: guests and Retail pay 10 % less for Suits and gloves, in Web shop, from 27 November 2026 until 30 November 2026. It moves the price shown, whatever it comes from, rounded to the cent.',
  )
  expect(text('variant', 'CL-JK-2XL')).toBe(
    'Jacket, fencing veil, 2XL. Its own: base price €69.00, cost €37.20, recommended price €77.90. As its product: never below any price, in other currencies converted, weight 0.9 kg, content not set, price family none, tax class the usual one.',
  )
  expect(text('access-rule', 'treatments-signed-in')).toBe(
    'guests see but cannot buy Treatments everywhere, always.',
  )
  expect(text('contract', 'C-104')).toBe(
    'For Fennmoor Honey Farm, buying everything, from 1 April 2026 until 31 March 2027, in whatever they pay in: the lists Fennmoor agreed prices and Wax round for bee farms come first. Orders from €250.00, paid 45 days net; adjustments leave its prices alone. It is active.',
  )
})

test('the options of a variant are said in the order of its product, however they are kept', () => {
  const [variant] = recordsOf(store, 'variant').filter((each) => each['sku'] === 'FR-BR-PF')
  const options = variant!['options'] as Readonly<Record<string, string>>
  const reversed = Object.fromEntries(Object.entries(options).reverse())
  expect(SHEETS.variant.sentence({ ...variant, options: reversed }, store)).toContainEqual({
    field: 'options',
    words: 'Pine, flat-packed, 10',
  })
})
