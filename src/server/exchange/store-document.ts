import 'server-only'

import { parseCount, type StockLevels, UNCOUNTED } from '@/core/catalogue/stock'
import { type Decimal, isPositive } from '@/core/decimal/decimal'
import type { Issue, RecordKind } from '@/core/issue/issue'
import { findNearest, RECORD_KINDS } from '@/core/issue/issue'
import { ALWAYS } from '@/core/predicates/when'
import { EVERYWHERE } from '@/core/predicates/where'
import { checkChanges } from '@/core/store/check-changes'
import { parseRecord } from '@/core/store/parse-record'
import { BREAK_DEFAULTS, RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { applyChanges, type Change, emptyStore, type Store } from '@/core/store/store'
import { meansTheSame } from '@/core/store/same-meaning'
import { parseContext } from '../changes/weigh'
import { Slices } from '../doors/slices'
import { arrayText } from '../doors/text-stream'
import { checkShape } from '../records/record-schema'

/** The name of each kind of record in the document. */
export const SECTIONS: Readonly<Record<RecordKind, string>> = {
  settings: 'settings',
  currency: 'currencies',
  'exchange-rate': 'exchangeRates',
  channel: 'channels',
  region: 'regions',
  'tax-class': 'taxClasses',
  tax: 'taxes',
  'tax-rate': 'taxRates',
  category: 'categories',
  'price-family': 'priceFamilies',
  product: 'products',
  variant: 'variants',
  extra: 'extras',
  group: 'groups',
  account: 'accounts',
  'price-list': 'priceLists',
  'price-line': 'priceLines',
  contract: 'contracts',
  adjustment: 'adjustments',
  limit: 'limits',
  'access-rule': 'accessRules',
  passcode: 'passcodes',
  promotion: 'promotions',
  proof: 'proofs',
}

const FORMAT = 'steppe-store'
const VERSION = 1

type Fields = Record<string, unknown>

/**
 * The whole configuration as one JSON document: every field of every record, records and fields in a fixed order,
 * so that the same store gives the same text.
 */
export function toDocument(store: Store, stock: StockLevels = UNCOUNTED): object {
  const counted = withCount(stock)
  const sections = RECORD_KINDS.map((kind) => {
    const sorted = recordsInOrder(store, kind).map(counted).map(inFixedOrder)
    return [SECTIONS[kind], kind === 'settings' ? (sorted[0] ?? null) : sorted]
  })
  return { format: FORMAT, version: VERSION, ...Object.fromEntries(sections) }
}

/** A variant that is counted, with what is on hand; every other record as it is. */
function withCount(stock: StockLevels): (record: Identified) => Identified {
  return (record) => {
    const level = stock.get(record.id)
    return level && 'sku' in record ? ({ ...record, stock: level.onHand } as Identified) : record
  }
}

/** The same as text in pieces, for stores too large to be written in one go while others wait. */
export async function* documentText(store: Store, stock: StockLevels = UNCOUNTED): AsyncGenerator<string> {
  yield `{"format":"${FORMAT}","version":${VERSION}`
  for (const kind of RECORD_KINDS) {
    yield `,"${SECTIONS[kind]}":`
    if (kind === 'settings') yield JSON.stringify(inFixedOrder([...store.settings.values()][0] ?? null))
    else yield* arrayText(inSlices(store[kind], kind === 'variant' ? withCount(stock) : (record) => record))
  }
  yield '}'
}

interface Identified {
  readonly id: string
}

/** So many records are written between two looks at the clock. */
const RECORDS_A_PART = 200

/** Records in the order of their ids: those made since the store was read stand behind the others, and are merged in. */
async function* inSlices(
  records: ReadonlyMap<string, Identified>,
  shown: (record: Identified) => Identified,
): AsyncGenerator<readonly unknown[]> {
  const slices = new Slices()
  const behind: Identified[] = []
  let last = ''
  for (const record of records.values()) {
    if (slices.isDue()) await slices.rest()
    if (record.id > last) last = record.id
    else behind.push(record)
  }
  behind.sort(byId)
  let part: unknown[] = []
  let at = 0
  last = ''
  for (const record of records.values()) {
    if (record.id <= last) continue
    last = record.id
    for (; at < behind.length && (behind[at] as Identified).id < last; at += 1)
      part.push(inFixedOrder(shown(behind[at] as Identified)))
    part.push(inFixedOrder(shown(record)))
    if (part.length < RECORDS_A_PART) continue
    yield part
    part = []
    await slices.rest()
  }
  yield [...part, ...behind.slice(at).map(shown).map(inFixedOrder)]
}

function recordsInOrder(store: Store, kind: RecordKind): readonly Identified[] {
  return [...(store[kind] as ReadonlyMap<string, Identified>).values()].sort(byId)
}

function byId(left: Identified, right: Identified): number {
  return left.id < right.id ? -1 : 1
}

/** A database keeps the fields of an object in an order of its own. */
function inFixedOrder(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(inFixedOrder)
  if (value === null || typeof value !== 'object') return value
  const record = value as Fields
  const fields = fieldsInOrder(Object.keys(record))
  return Object.fromEntries(fields.map((field) => [field, inFixedOrder(record[field])]))
}

/** Records of one kind have the same fields: how these stand is found once. */
const ORDERS = new Map<string, readonly string[]>()
const MOST_ORDERS = 1_000

function fieldsInOrder(fields: readonly string[]): readonly string[] {
  const key = fields.join('\n')
  let order = ORDERS.get(key)
  if (!order) {
    const rank = (field: string) => FIRST_FIELDS.indexOf(field) + 1 || FIRST_FIELDS.length + 1
    order = [...fields].sort((left, right) => rank(left) - rank(right) || (left < right ? -1 : 1))
    if (ORDERS.size >= MOST_ORDERS) ORDERS.clear()
    ORDERS.set(key, order)
  }
  return order
}

const FIRST_FIELDS = ['id', 'code', 'sku', 'name', 'kind']

/** Something wrong with a document: where in it, what was found, and what would be right. */
export interface DocumentError {
  readonly code: string
  /** `products[3].basePrice` */
  readonly where: string
  readonly value: string
  readonly expected: string | null
}

export type ReadDocument =
  | {
      readonly ok: true
      readonly store: Store
      /** What the document says was counted, by id of the variant; `null` where nobody counts any more. */
      readonly stock: ReadonlyMap<string, Decimal | null>
    }
  | { readonly ok: false; readonly errors: readonly DocumentError[] }

/**
 * Reads a document into a store. Everything wrong with it is reported at once.
 *
 * `known` is the store there is: records that say what they say already are taken from it as they are.
 *
 * Errors  an unknown section or field is refused with its name, whatever `parseRecord` and `checkChanges` refuse.
 * Holds   `readDocument(toDocument(store, stock))` is both.
 */
export function readDocument(document: unknown, known: Store = emptyStore()): ReadDocument {
  const steps = readSteps(document, known)
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
  }
}

/** The same in slices, between which others are served. */
export async function readDocumentInSlices(document: unknown, known: Store): Promise<ReadDocument> {
  const slices = new Slices()
  const steps = readSteps(document, known)
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
    await slices.rest()
  }
}

/** A step a record. */
function* readSteps(document: unknown, known: Store): Generator<undefined, ReadDocument> {
  if (document === null || typeof document !== 'object' || Array.isArray(document))
    return fail([error('malformed', '', 'the document', 'a JSON object')])
  const given = document as Fields
  const errors = checkHead(given)
  const drafts: Draft[] = []
  for (const kind of RECORD_KINDS) {
    for (const draft of readSection(kind, given[SECTIONS[kind]], given, errors)) {
      drafts.push(draft)
      yield
    }
  }
  if (errors.length > 0) return fail(errors)

  const requests = drafts.map(({ kind, record }) => ({ kind, id: record['id'] as string, after: record }))
  const context = parseContext(emptyStore(), requests as never)
  const isSameContext = meansTheSame(
    known.settings.get('settings'),
    drafts.find(({ kind }) => kind === 'settings')?.record,
  )
  const changes: Change[] = []
  const stock = new Map<string, Decimal | null>()
  for (const { kind, record: given, where } of drafts) {
    yield
    const record = kind === 'variant' ? takeCount(given, where, stock, errors) : given
    const before = known[kind].get(record['id'] as string)
    if (isSameContext && before && meansTheSame(before, record)) {
      changes.push({ kind, id: before.id, before: null, after: before } as Change)
      continue
    }
    const shape = checkShape(kind, record)
    errors.push(
      ...shape.map((wrong) => error('malformed', `${where}.${wrong.field}`, wrong.value, wrong.expected)),
    )
    if (shape.length > 0) continue
    const parsed = parseRecord(kind, record as never, context)
    if (!parsed.ok) errors.push(...parsed.issues.map((issue) => fromIssue(issue, where)))
    else changes.push({ kind, id: parsed.value.id, before: null, after: parsed.value } as Change)
  }
  if (errors.length > 0) return fail(errors)
  const out = [...stock].filter(([, counted]) => counted !== null && !isPositive(counted))
  const outOfStock = new Set(out.map(([variant]) => variant))
  const store = { ...applyChanges(emptyStore(), changes), outOfStock }
  const issues = checkChanges(store, changes)
  if (issues.length > 0)
    return fail(issues.map((issue) => fromIssue(issue, `${SECTIONS[issue.kind]} ${issue.label}`)))
  return { ok: true, store, stock }
}

/** A count stands beside what a variant is: it is taken out of the record. */
function takeCount(
  { stock: typed, ...record }: Fields,
  where: string,
  stock: Map<string, Decimal | null>,
  errors: DocumentError[],
): Fields {
  if (typed === undefined) return record
  if (typed !== null && typeof typed !== 'string')
    errors.push(error('malformed', `${where}.stock`, typed, 'a number as text, such as "40", or null'))
  else {
    const parsed = parseCount(String(record['sku']), typed)
    if (parsed.ok) stock.set(record['id'] as string, parsed.value)
    else errors.push(...parsed.issues.map((issue) => fromIssue(issue, where)))
  }
  return record
}

function checkHead(given: Fields): DocumentError[] {
  const errors: DocumentError[] = []
  if (given['format'] !== FORMAT) errors.push(error('malformed', 'format', given['format'], FORMAT))
  if (given['version'] !== VERSION)
    errors.push(error('malformed', 'version', given['version'], String(VERSION)))
  const known = ['format', 'version', ...Object.values(SECTIONS)]
  for (const field of Object.keys(given))
    if (!known.includes(field)) errors.push(error('unknown-field', field, field, findNearest(field, known)))
  if (given['settings'] === undefined || given['settings'] === null)
    errors.push(error('missing', 'settings', 'nothing', '{ "currency": "EUR" }'))
  return errors
}

interface Draft {
  readonly kind: RecordKind
  readonly record: Fields
  readonly where: string
}

function* readSection(
  kind: RecordKind,
  section: unknown,
  document: Fields,
  errors: DocumentError[],
): Generator<Draft> {
  const name = SECTIONS[kind]
  const records = kind === 'settings' ? [section ?? {}] : (section ?? [])
  if (!Array.isArray(records)) {
    errors.push(error('malformed', name, typeof section, 'an array'))
    return
  }
  const ids = new Set<string>()
  for (const [at, given] of (records as readonly unknown[]).entries()) {
    const where = kind === 'settings' ? name : `${name}[${at}]`
    if (given === null || typeof given !== 'object' || Array.isArray(given)) {
      errors.push(error('malformed', where, given, 'an object'))
      continue
    }
    const record = withDefaults(kind, given as Fields, document)
    const { id } = record
    if (typeof id !== 'string' || id === '' || id.length > LONGEST_ID)
      errors.push(
        error(
          'missing',
          `${where}.id`,
          id,
          `an id of at most ${LONGEST_ID} characters, or a code or SKU to take it from`,
        ),
      )
    else if (ids.has(id)) errors.push(error('duplicate', `${where}.id`, id, null))
    else {
      ids.add(id)
      yield { kind, record, where }
    }
  }
}

const LONGEST_ID = 200

/** The id of a record that does not name one is its code or SKU; a list without a currency is in the store's. */
function withDefaults(kind: RecordKind, given: Fields, document: Fields): Fields {
  const settings = document['settings'] as Fields | undefined
  const usual: Fields = RECORD_DEFAULTS[kind]
  const id = given['id'] ?? given['code'] ?? given['sku'] ?? usual['id']
  const record: Fields = { ...usual, ...given, id }
  if (kind === 'price-list') record['currency'] ??= settings?.['currency']
  if (kind === 'exchange-rate') {
    const between = record['per'] === undefined ? '' : `${String(record['per'])} `
    record['per'] ??= settings?.['currency']
    record['id'] ??= `${between}${String(record['currency'])} ${String(record['from'])}`
  }
  if (kind === 'currency') record['code'] ??= id
  if (kind === 'currency' || kind === 'settings') record['priceDigits'] ??= null
  for (const [field, value] of Object.entries(NESTED_DEFAULTS)) {
    const own = record[field]
    if (own !== null && typeof own === 'object' && !Array.isArray(own)) record[field] = { ...value, ...own }
  }
  return record
}

/** Inner objects may leave out what is usual, too. */
const NESTED_DEFAULTS: Readonly<Record<string, Fields>> = {
  audience: { exclude: [] },
  scope: { exclude: [] },
  place: EVERYWHERE as unknown as Fields,
  schedule: ALWAYS as unknown as Fields,
  defaultLine: BREAK_DEFAULTS,
}

function fromIssue({ code, field, value, expected }: Issue, where: string): DocumentError {
  return error(code, `${where}.${field}`, value, expected)
}

function shortened(text: string): string {
  return text.length > 120 ? `${text.slice(0, 120)}…` : text
}

function error(code: string, where: string, value: unknown, expected: string | null): DocumentError {
  return {
    code,
    where,
    value: shortened(typeof value === 'string' ? value : (JSON.stringify(value) ?? 'nothing')),
    expected,
  }
}

/** The most faults that are reported at once; a document with more is corrected in several rounds. */
const MOST_REPORTED = 200

/** Each fault once. */
function fail(errors: readonly DocumentError[]): ReadDocument {
  const reported = new Map(errors.map((each) => [`${each.code}/${each.where}/${each.value}`, each]))
  return { ok: false, errors: [...reported.values()].slice(0, MOST_REPORTED) }
}
