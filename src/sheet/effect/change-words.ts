import 'server-only'

import type { PriceLine } from '@/core/price/lines/price-list'
import { itemName } from '@/core/catalogue/product'
import { touchedFields } from '@/core/store/rebase'
import { labelOf } from '@/core/store/references'
import { type Change, getSettings, type RecordOfKind, type Store } from '@/core/store/store'
import { parseDecimal } from '@/core/decimal/decimal'
import { formatAmount } from '@/ui/format/amount'
import { breaksPhrase, whatSentence, whenSentence } from '@/ui/format/rule-phrases'
import { recordHref } from '@/ui/frame/record-href'
import { fieldPhrase, type Fields } from '../fields/field-rule'
import { RECORD_FIELDS } from '../fields/record-fields'
import { nameOf } from '../record/find-record'
import { type EditableKind, sectionOf } from '../record/sections'

/** One field of a record, before and after, as a sheet says it; empty where it says nothing. */
interface ChangedField {
  readonly name: string
  readonly from: string
  readonly to: string
}

/** What is done to one record, in words. */
export interface ChangeWords {
  readonly kind: Change['kind']
  readonly id: string
  /** "price list", "line of a price list". */
  readonly noun: string
  readonly title: string
  readonly href: string | null
  readonly way: 'new' | 'changed' | 'removed'
  readonly fields: readonly ChangedField[]
}

/** A change in words. `before` and `after` are the stores its records are of, to name what they speak of. */
export function changeWords(change: Change, before: Store, after: Store): ChangeWords {
  const way = change.before === null ? 'new' : change.after === null ? 'removed' : 'changed'
  const record = (change.after ?? change.before) as RecordOfKind[Change['kind']]
  const store = change.after === null ? before : after
  const about = { kind: change.kind, id: change.id, way } as const
  const fields = changedFields(change, before, after)
  if (!isEditable(change.kind)) return { ...about, ...partWords(change.kind, record, store), fields }
  const section = sectionOf(change.kind)
  return {
    ...about,
    noun: section.singular,
    title: titleOf(change.kind, record, store),
    href: way === 'removed' ? null : recordHref(section.path, labelOf(change.kind, record)),
    fields,
  }
}

function titleOf(kind: EditableKind, record: RecordOfKind[Change['kind']], store: Store): string {
  if (kind !== 'variant') return nameOf(kind, record as unknown as Fields)
  const variant = record as RecordOfKind['variant']
  const product = store.product.get(variant.product)
  return product ? itemName(product, variant) : variant.sku
}

/** Records that stand on the sheet of another one. */
function partWords(
  kind: Change['kind'],
  record: RecordOfKind[Change['kind']],
  store: Store,
): Pick<ChangeWords, 'noun' | 'title' | 'href'> {
  if (kind === 'price-line') {
    const line = record as PriceLine
    const list = store['price-list'].get(line.list)
    return {
      noun: 'line of a price list',
      title: `${list?.name ?? line.list}: ${whatSentence(line.scope, store)}`,
      href: list ? recordHref('price-lists', list.code) : null,
    }
  }
  if (kind === 'exchange-rate') {
    const { currency } = record as RecordOfKind['exchange-rate']
    return { noun: 'exchange rate', title: `Rate of ${currency}`, href: recordHref('currencies', currency) }
  }
  return { noun: 'tax rate', title: `Tax rate, ${labelOf(kind, record)}`, href: '/taxes' }
}

/** The fields a change gives another value, as the sheets say them. */
function changedFields(
  { kind, before: old, after: next }: Change,
  before: Store,
  after: Store,
): readonly ChangedField[] {
  const sides = [
    old && (['from', old as unknown as Fields, before] as const),
    next && (['to', next as unknown as Fields, after] as const),
  ]
  const said = (phrase: (record: Fields, store: Store) => string) => {
    const [from, to] = sides.map((side) => (side ? phrase(side[1], side[2]) : ''))
    return { from: from ?? '', to: to ?? '' }
  }
  if (kind === 'price-line') {
    const rule = said((record, store) => {
      const line = record as unknown as PriceLine
      const currency = store['price-list'].get(line.list)?.currency ?? ''
      return breaksPhrase(
        line,
        (amount) => `${currency} ${amount}`,
        (id) => store['price-list'].get(id)?.name ?? id,
      )
    })
    const what = said((record, store) => whatSentence((record as unknown as PriceLine).scope, store))
    const when = said((record) => {
      const { schedule } = record as unknown as PriceLine
      return schedule ? whenSentence(schedule) : 'always'
    })
    return [
      { name: 'Rule', ...rule },
      { name: 'What', ...what },
      { name: 'When', ...when },
    ].filter(({ from, to }) => from !== to)
  }
  if (!isEditable(kind))
    return touchedFields({ kind, id: '', before: old, after: next } as Change)
      .filter((field) => field !== 'id')
      .map((field) => ({ name: field, ...said((record) => String(record[field] ?? '')) }))
      .filter(({ from, to }) => from !== to)
  return RECORD_FIELDS[kind]
    .map((rule) => ({
      name: rule.name,
      isSame: sides.every(Boolean) && written(rule, sides[0]) === written(rule, sides[1]),
      ...said((record, store) => shownValue(rule, record, store)),
    }))
    .filter(({ isSame, from, to }) => !isSame && (from !== '' || to !== ''))
    .map(({ name, from, to }) => ({ name, from, to }))
}

/** Amounts of money that are kept without the zeros at their end. */
const AMOUNTS: ReadonlySet<string> = new Set(['basePrice', 'cost', 'recommendedPrice', 'floor'])

function shownValue(
  rule: (typeof RECORD_FIELDS)[EditableKind][number],
  record: Fields,
  store: Store,
): string {
  const phrase = fieldPhrase(rule, record, store)
  const amount = AMOUNTS.has(rule.field) ? parseDecimal(phrase) : null
  return amount === null ? phrase : formatAmount(amount, getSettings(store).priceDigits)
}

function written(
  rule: (typeof RECORD_FIELDS)[EditableKind][number],
  side: readonly [string, Fields, Store] | null | undefined,
): string {
  return side ? rule.write(side[1], side[2]) : ''
}

function isEditable(kind: Change['kind']): kind is EditableKind {
  return kind in RECORD_FIELDS
}
