import type { Store } from '@/core/store/store'
import type { Fields } from '@/sheet/fields/field-rule'
import { beginning } from '@/sheet/record/new-record'
import { RECORD_FIELDS } from '@/sheet/fields/record-fields'
import { writeNamed } from '@/core/notation/named-text'
import { readRounding } from '@/core/notation/rounding-text'
import { readWhat, writeWhat } from '@/core/notation/what-text'
import { readWhere } from '@/core/notation/where-text'
import { readWho, writeWho } from '@/core/notation/who-text'
import type { EditableKind } from '@/sheet/record/sections'
import { store } from '@tests/fixtures/demo-request'
import { randomStore, storeOf } from '@tests/fixtures/random-store'
import { ALWAYS, type Schedule } from '@/core/predicates/when'
import fc from 'fast-check'

const KINDS = Object.keys(RECORD_FIELDS) as EditableKind[]

function recordsOf(from: Store, kind: EditableKind): readonly Fields[] {
  return [...from[kind].values()] as unknown as Fields[]
}

/** What changes in a record when a field is saved as it stands. */
function savedAsItStands(from: Store, kind: EditableKind, record: Fields): readonly string[] {
  return RECORD_FIELDS[kind].flatMap((rule) => {
    const text = rule.write(record, from)
    const read = rule.read(text, record, from)
    if (!read.ok) return [`${kind} ${rule.field}: ${read.problem}`]
    return Object.entries(read.value).flatMap(([field, value]) =>
      JSON.stringify(sorted(value)) === JSON.stringify(sorted(record[field]))
        ? []
        : [`${kind} ${rule.field}: “${text}” became ${JSON.stringify(value)}`],
    )
  })
}

/** The same value with its keys in one order. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value)
      .sort(([left], [right]) => (left < right ? -1 : 1))
      .map(([key, each]) => [key, sorted(each)]),
  )
}

test.each(KINDS)('saving any field of a demo %s as it stands changes nothing', (kind) => {
  const changed = recordsOf(store, kind).flatMap((record) => savedAsItStands(store, kind, record))
  expect(changed).toEqual([])
})

test('saving any field as it stands changes nothing in random stores either', () => {
  fc.assert(
    fc.property(randomStore, (random) => {
      const changed = KINDS.flatMap((kind) =>
        recordsOf(random, kind).flatMap((record) => savedAsItStands(random, kind, record)),
      )
      expect(changed).toEqual([])
    }),
    { numRuns: 100 },
  )
})

describe('names that could be read as something else are written by code', () => {
  const named = (id: string, name: string) => ({
    id,
    code: id,
    name,
    trade: false,
    position: 0,
    status: 'active',
  })
  const twins = storeOf({
    group: [
      named('g1', 'Farms'),
      named('g2', 'farms'),
      named('g3', 'Clubs, small'),
      named('g4', 'trade'),
      named('g5', 'Not members'),
      named('g6', 'Schools'),
    ],
  } as never)
  test.each([
    ['g1', 'Farms'],
    ['g2', 'g2'],
    ['g3', 'g3'],
    ['g4', 'g4'],
    ['g5', 'g5'],
    ['g6', 'Schools'],
    ['gone', 'gone'],
  ])('%s is written %s', (group, text) => {
    expect(writeWho(twins, { include: [{ kind: 'group', group }], exclude: [] })).toBe(text)
  })

  test.each([
    ['g2', 'g2'],
    ['g3', 'g3'],
    // Only a rule for buyers knows the word trade; a list of groups does not.
    ['g4', 'trade'],
  ])('in a list of groups, %s is written %s', (group, text) => {
    expect(writeNamed(twins.group, group)).toBe(text)
  })
})

test('a category without its branches stays so', () => {
  const read = readWhat(store, 'only Frames, Jars, not FR-BR-PF')
  if (!read.ok) throw new Error(read.problem)
  expect(read.value.include.map((term) => term.kind === 'category' && term.descendants)).toEqual([
    false,
    true,
  ])
  expect(read.value.exclude.map(({ kind }) => kind)).toEqual(['variant'])
  expect(writeWhat(store, read.value)).toBe('only Frames, Jars, not FR-BR-PF')
})

test.each([
  [() => readWho(store, 'bee famrs'), 'There is no “bee famrs” here. Did you mean Bee farms?'],
  [() => readWhat(store, 'Jars, FR-BR-PX'), /There is no “FR-BR-PX” here\. Did you mean FR-BR-P\w\?/],
  [() => readWhere(store, 'Web shpo'), 'There is no “Web shpo” here. Did you mean Web shop?'],
  [() => readRounding('nearly'), /“nearly” is no rounding\. Type 0\.05/],
])('what means nothing is named, with the nearest thing that does', (read, problem) => {
  const found = read()
  expect(found.ok ? 'it was read' : found.problem).toEqual(
    typeof problem === 'string' ? problem : expect.stringMatching(problem),
  )
})

test.each([
  ['', null],
  ['0.05', { kind: 'step', step: '0.05', mode: 'half-up' }],
  ['0.5 down', { kind: 'step', step: '0.5', mode: 'down' }],
  ['.95', { kind: 'endings', period: '1', endings: ['.95'], mode: 'nearest' }],
  ['.49 .99', { kind: 'endings', period: '1', endings: ['.49', '.99'], mode: 'nearest' }],
  ['.05', { kind: 'step', step: '.05', mode: 'half-up' }],
  ['ends .95', { kind: 'endings', period: '1', endings: ['.95'], mode: 'nearest' }],
  ['ends 4.90 9.90 in 10 up', { kind: 'endings', period: '10', endings: ['4.90', '9.90'], mode: 'up' }],
])('the rounding “%s”', (text, rule) => {
  expect(readRounding(text)).toEqual({ ok: true, value: rule })
})

/** What a kind's field reads from a text, or why it does not. */
function read(kind: EditableKind, field: string, text: string, record: Fields = {}): unknown {
  const rule = RECORD_FIELDS[kind].find((each) => each.field === field)
  if (!rule) throw new Error(`${kind} has no ${field}`)
  const found = rule.read(text, record, store)
  return found.ok ? found.value : found.problem
}

describe('what is typed into a field', () => {
  test.each<readonly [string, Partial<Schedule>]>([
    ['from 2027-03-01', { from: '2027-03-01T00:00' }],
    ['from 1 March 2027 09:30', { from: '2027-03-01T09:30' }],
    ['', {}],
    ['fri, Monday', { weekdays: [1, 5] }],
    ['17:00–19:00', { hours: { from: '17:00', to: '19:00' } }],
  ])('a schedule “%s”', (text, changed) => {
    expect(read('adjustment', 'schedule', text)).toEqual({ schedule: { ...ALWAYS, ...changed } })
  })

  test.each([
    ['from 1 March', 'from 1 March'],
    ['Mon Funday', 'Mon Funday'],
    ['Mondays, 5pm', '5pm'],
  ])('a schedule cannot be “%s”', (text, part) => {
    expect(read('adjustment', 'schedule', text)).toMatch(`“${part}” was not understood.`)
  })

  test.each([
    ['contract', 'from', '1 April 2027', { from: '2027-04-01T00:00' }],
    ['contract', 'to', '31.3.2028', { to: '2028-04-01T00:00' }],
    ['contract', 'minimumOrder', '1.250,50', { minimumOrder: '1250.50' }],
    ['product', 'basePrice', '€ 12,50', { basePrice: '12.50' }],
    ['currency', 'fee', '1,5 %', { fee: '1.5' }],
    ['region', 'countries', 'Ireland, gb, US-CA', { countries: ['IE', 'GB', 'US-CA'] }],
    ['account', 'country', 'germany', { country: 'DE' }],
    ['contract', 'assortment', 'everything, not Livestock', null],
  ] as const)('%s, %s: “%s” is understood', (kind, field, text, value) => {
    const found = read(kind, field, text)
    if (value !== null) expect(found).toEqual(value)
    else expect(found).toMatchObject({ assortment: { start: 'everything', include: [] } })
  })

  test('a country that is none is named with the nearest', () => {
    expect(read('region', 'countries', 'Irland')).toBe('There is no country “Irland”. Did you mean Ireland?')
  })

  test.each([
    ['-10%', { kind: 'percent', percent: '-10' }],
    ['+4 %', { kind: 'percent', percent: '4' }],
    ['−2', { kind: 'amount', amount: '-2' }],
    ['+0.50', { kind: 'amount', amount: '0.50' }],
    ['10 % less', { kind: 'percent', percent: '-10' }],
    ['4,5 % more', { kind: 'percent', percent: '4.5' }],
  ])('an adjustment of %s', (text, method) => {
    expect(read('adjustment', 'method', text)).toEqual({ method })
  })

  test('an adjustment without a sign is asked for its direction', () => {
    expect(read('adjustment', 'method', '3')).toBe('Does “3” raise or lower prices? Type +3 or -3.')
  })

  test('an adjustment by a word is refused', () => {
    expect(read('adjustment', 'method', 'less')).toMatch('“less” moves nothing.')
  })

  test('amounts in other currencies, a line each', () => {
    expect(read('product', 'ownAmounts', 'gbp base=21.90 cost=11.20\n\nUSD rrp=30')).toEqual({
      ownAmounts: {
        GBP: { basePrice: '21.90', cost: '11.20', recommendedPrice: null, floor: null },
        USD: { basePrice: null, cost: null, recommendedPrice: '30', floor: null },
      },
    })
    expect(read('product', 'ownAmounts', 'GBP price=1')).toMatch('“price=1” is no amount.')
  })

  test('addresses, one a line', () => {
    expect(read('account', 'addresses', 'Yard | Bog Lane | | Castlepollard | | ie')).toEqual({
      addresses: [
        { label: 'Yard', street: 'Bog Lane', postcode: '', city: 'Castlepollard', state: '', country: 'IE' },
      ],
    })
  })

  test.each([
    ['account', 'tags', ' organic, , organic, pallet', { tags: ['organic', 'pallet'] }],
    ['account', 'emails', 'Orders@Fennmoor.example', { emails: ['orders@fennmoor.example'] }],
    ['group', 'trade', 'true', { trade: true }],
    ['group', 'position', '', { position: null }],
    ['group', 'position', '1.5', '“1.5” is not a whole number.'],
    ['contract', 'policy', '', { policy: null }],
    ['contract', 'to', 'soon', /“soon” is not a valid date/],
    ['contract', 'state', 'maybe', '“maybe” cannot be chosen.'],
    ['contract', 'groups', 'Bee farm', 'There is no “Bee farm” here. Did you mean Bee farms?'],
    ['product', 'attributes', 'Pine', /“Pine” has no name and value/],
    ['product', 'attributes', 'Timber = Pine', { attributes: { Timber: 'Pine' } }],
  ] as const)('%s %s “%s”', (kind, field, text, expected) => {
    const found = read(kind, field, text)
    if (expected instanceof RegExp) expect(found).toMatch(expected)
    else expect(found).toEqual(expected)
  })
})

test('a choice of a new record begins with what the form shows: one of its options', () => {
  const begun = KINDS.flatMap((kind) =>
    RECORD_FIELDS[kind].flatMap((rule) => {
      if (rule.control !== 'choice') return []
      const text = rule.write(beginning(store, kind), store)
      const isOption = rule.options?.(store).some(({ value }) => value === text)
      return isOption ? [] : [`${kind} ${rule.field} begins with “${text}”`]
    }),
  )
  expect(begun).toEqual([])
})
