import { findByCode } from '@/core/catalogue/find-by-code'
import { parseDecimal } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import { readPlaceText, writePlaceText } from '@/core/notation/place-text'
import { findNearest } from '@/core/issue/issue'
import { readEnd, readLocal, writeEnd, writeLocal } from '@/core/predicates/schedule-text'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import type { Store } from '@/core/store/store'
import type { TaxRateInput } from '@/core/tax/parse-tax'
import type { Tax, TaxClass } from '@/core/tax/tax'
import { readTabbed, writeTabbed } from '@/ui/grid/tabbed-text'

/** What tells one row of the grid from another: a tax at a place for a while. */
export interface RatePlace {
  /** Code of the tax. */
  readonly tax: string
  readonly country: string
  readonly state: string
  readonly postcode: string
  readonly city: string
  readonly from: string | null
  readonly to: string | null
}

/** A row of the rates grid: its place, and a rate for each class that has one. */
export interface RateRow extends RatePlace {
  readonly taxName: string
  readonly reason: string
  /** Percent in the order of the columns; empty where there is none. */
  readonly percents: readonly string[]
}

/** The columns of classes: every class together first, then each. */
export function rateColumns(store: Store): readonly (TaxClass | null)[] {
  const classes = [...store['tax-class'].values()].filter(({ status }) => status === 'active')
  return [null, ...classes.sort((left, right) => left.position - right.position)]
}

const EVERY_CLASS = 'Every class'
const PLACE_COLUMNS = ['Tax', 'Where', 'From', 'To', 'Reason'] as const

/** Other words spreadsheets have for the columns. */
const ALSO_CALLED: Readonly<Record<string, string>> = { country: 'where', place: 'where', until: 'to' }

export function columnTitles(store: Store): readonly string[] {
  return rateColumns(store).map((each) => each?.name ?? EVERY_CLASS)
}

export function rateRows(store: Store): readonly RateRow[] {
  const columns = rateColumns(store)
  const rows = new Map<string, RateRow>()
  for (const rate of store['tax-rate'].values()) {
    const tax = store.tax.get(rate.tax)
    if (!tax) continue
    const place: RatePlace = { ...rate, tax: tax.code }
    const key = placeKey(place)
    const known = rows.get(key)
    const at = columns.findIndex((each) => (each?.id ?? null) === rate.taxClass)
    const percents = [...(known?.percents ?? columns.map(() => ''))]
    if (at >= 0) percents[at] = rate.percent
    const { country, state, postcode, city, from, to } = place
    rows.set(key, {
      ...{ tax: tax.code, country, state, postcode, city, from, to },
      taxName: tax.name,
      reason: known?.reason || rate.reason,
      percents,
    })
  }
  const order = new Map([...store.tax.values()].map(({ code, position }) => [code, position]))
  return [...rows.values()].sort(
    (left, right) =>
      (order.get(left.tax) ?? 0) - (order.get(right.tax) ?? 0) || (placeKey(left) < placeKey(right) ? -1 : 1),
  )
}

export function placeKey({ tax, country, state, postcode, city, from, to }: RatePlace): string {
  return [tax, country, state, postcode, city.toLowerCase(), from ?? '', to ?? ''].join('\t')
}

/** The grid as a spreadsheet takes it. */
export function writeRates(store: Store): string {
  return writeTabbed([
    [...PLACE_COLUMNS, ...columnTitles(store)],
    ...rateRows(store).map((row) => [
      row.taxName,
      writePlaceText(row),
      writeLocal(row.from),
      writeEnd(row.to),
      row.reason,
      ...row.percents,
    ]),
  ])
}

/** A rate as it is to be; `null` for one that goes. */
export interface RateEdit {
  readonly id: string
  readonly after: TaxRateInput | null
}

export type ReadRates =
  | { readonly ok: true; readonly edits: readonly RateEdit[] }
  | { readonly ok: false; readonly problems: readonly string[] }

/**
 * Reads rows pasted from a spreadsheet: the first line names the columns, in any order. A class without a figure stays
 * as it is, a dash takes its rate away.
 */
export function readRates(store: Store, text: string, newId: () => string): ReadRates {
  const [head, ...rows] = readTabbed(text.trim())
  if (!head || rows.length === 0)
    return {
      ok: false,
      problems: [
        `The first line names the columns: ${PLACE_COLUMNS.join(', ')} and the classes. Then a line a place.`,
      ],
    }
  const titles = [...PLACE_COLUMNS, ...columnTitles(store)]
  const find = (word: string) => {
    const said = word.trim().toLowerCase()
    const meant = ALSO_CALLED[said] ?? said
    return titles.find((title) => title.toLowerCase() === meant)
  }
  const problems = head.flatMap((word) => {
    if (find(word)) return []
    const nearest = findNearest(word, titles)
    return [`There is no column “${word}”.${nearest ? ` Did you mean ${nearest}?` : ''}`]
  })
  if (problems.length > 0) return { ok: false, problems }
  const columns = head.map((word) => find(word) as string)
  const edits: RateEdit[] = []
  rows.forEach((cells, at) => {
    const cell = (title: string) => (cells[columns.indexOf(title)] ?? '').trim()
    const read = readRow(store, cell, newId)
    if (typeof read === 'string') problems.push(`Line ${at + 2}: ${read}`)
    else edits.push(...read)
  })
  return problems.length > 0 ? { ok: false, problems } : { ok: true, edits }
}

function readRow(
  store: Store,
  cell: (title: string) => string,
  newId: () => string,
): readonly RateEdit[] | string {
  const typed = cell('Tax')
  const tax = [...store.tax.values()].find(
    ({ name, code }) =>
      name.toLowerCase() === typed.toLowerCase() || code.toLowerCase() === typed.toLowerCase(),
  )
  if (!tax) {
    const nearest = findNearest(
      typed,
      [...store.tax.values()].map(({ name }) => name),
    )
    return `there is no tax “${typed}”.${nearest ? ` Did you mean ${nearest}?` : ''}`
  }
  const [from, to] = [readLocal(cell('From')), readEnd(cell('To'))]
  if (from === undefined) return `“${cell('From')}” is not a valid date. Write it like 2027-03-01.`
  if (to === undefined) return `“${cell('To')}” is not a valid date. Write it like 2027-03-01.`
  const where = readPlaceText(cell('Where'))
  if (!where.ok) return where.problem
  const place: RatePlace = { tax: tax.code, ...where.value, from, to }
  const edits: RateEdit[] = []
  for (const taxClass of rateColumns(store)) {
    const text = cell(taxClass?.name ?? EVERY_CLASS).replace(/\s*%$/, '')
    if (text === '') continue
    const edit = rateEdit(store, tax, place, taxClass, text, cell('Reason'), newId)
    if (typeof edit === 'string') return edit
    if (edit) edits.push(edit)
  }
  return edits
}

/** What one figure of the grid changes; `null` where nothing, a sentence where it cannot be read. */
export function rateEdit(
  store: Store,
  tax: Tax,
  place: RatePlace,
  taxClass: TaxClass | null,
  text: string,
  reason: string,
  newId: () => string,
): RateEdit | string | null {
  const key = placeKey(place)
  const known = [...store['tax-rate'].values()].find(
    (rate) =>
      rate.tax === tax.id &&
      rate.taxClass === (taxClass?.id ?? null) &&
      placeKey({ ...rate, tax: tax.code }) === key,
  )
  const isGone = text === '' || text === '-' || text === '–'
  if (isGone) return known ? { id: known.id, after: null } : null
  const percent = typedAmount(text)
  if (parseDecimal(percent) === null) return `“${text}” is not a rate. Write it like 13.5.`
  const { country, state, postcode, city, from, to } = place
  const id = known?.id ?? newId()
  const after: TaxRateInput = known
    ? { ...known, percent, reason: reason || known.reason }
    : {
        ...RECORD_DEFAULTS['tax-rate'],
        id,
        tax: tax.id,
        taxClass: taxClass?.id ?? null,
        country,
        state,
        postcode,
        city,
        from,
        to,
        percent,
        reason,
      }
  return { id, after }
}

export function findTax(store: Store, code: string): Tax | null {
  return findByCode(store.tax, code) ?? null
}
