import type { WhatTerm } from '@/core/predicates/what'
import { breaksText } from '@/core/price/lines/breaks-text'
import { parseMethodText } from '@/core/price/lines/method-text'
import type { PriceList } from '@/core/price/lines/price-list'
import type { PriceMethodInput } from '@/core/price/lines/parse-breaks'
import type { PriceLineInput } from '@/core/price/lines/parse-price-list'
import { compare, type Decimal, parseDecimal } from '@/core/decimal/decimal'
import { parseRecord } from '@/core/store/parse-record'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { type Cells, cellsOf, NONE } from '../import-field'
import { plainAmount } from '@/core/decimal/written-amount'
import { LIST_PRICE } from './line-fields'
import { ItemFinder, LineShelf } from './list-items'
import { type ImportReading, type ReadingInput, type RecordInput, ROWS_A_TURN } from '../reading'
import { RowBook } from '../row-outcome'

/** One price of one row: from a quantity on, or no price any more. */
interface RowPrice {
  readonly row: number
  readonly from: Decimal
  readonly method: PriceMethodInput | null
}

/** All the file says of one item in one list. */
interface LineGroup {
  readonly list: PriceList
  readonly term: WhatTerm
  readonly prices: RowPrice[]
}

/**
 * Reads a file of prices in lists: each row is one item from one quantity on, in the list chosen, in the one the row
 * names or in the ones its columns are for. Rows of one item together are the quantity breaks of its line, which
 * replace those it had; `none` takes the line away. Lines the file does not speak of stay.
 */
export async function readLines(
  input: ReadingInput & { readonly list: PriceList | null },
): Promise<ImportReading> {
  const { store, table, matching, leftOut } = input
  const book = new RowBook()
  const finder = new ItemFinder(input)
  const groups = new Map<string, LineGroup>()
  for (const [at, { number, cells }] of table.rows.entries()) {
    if (at % ROWS_A_TURN === 0) await input.pause(at)
    const row = cellsOf(cells, matching)
    book.open(number, ['sku', 'product', 'category', 'family'].map((key) => row.get(key)).find(Boolean) ?? '')
    if (leftOut.has(number)) continue
    const term = finder.item(book, number, row)
    const prices = pricesOf(input, book, finder, number, row)
    if (term !== null && !book.isWrong(number))
      for (const { list, price } of prices) checkPrice(input, book, list, term, price)
    if (term === null || book.isWrong(number)) continue
    for (const { list, price } of prices) {
      const key = `${list.id}\n${JSON.stringify(term)}`
      const group = groups.get(key)
      const same = group?.prices.find(({ from }) => from === price.from)
      if (same)
        book.refuse(number, { code: 'repeated', field: 'From quantity', value: price.from, row: same.row })
      else if (group) group.prices.push(price)
      else groups.set(key, { list, term, prices: [price] })
    }
  }
  await input.pause(table.rows.length)
  const shelf = new LineShelf(store)
  const drafts = [...groups.values()].flatMap((group) => mergeLine(input, book, shelf, group))
  return { outcomes: book.outcomes(leftOut), drafts: [...shelf.changed, ...drafts], branches: [], counts: [] }
}

/** The prices a row says, each with the list it is for. */
function pricesOf(
  { mark, list: chosen }: ReadingInput & { readonly list: PriceList | null },
  book: RowBook,
  finder: ItemFinder,
  number: number,
  row: Cells,
): readonly { readonly list: PriceList; readonly price: RowPrice }[] {
  const quantity = row.get('from') ?? '0'
  const from = parseDecimal(plainAmount(quantity, mark))
  if (from === null || from.startsWith('-'))
    book.refuse(number, {
      code: 'record',
      issue: {
        code: from === null ? 'not-a-decimal' : 'negative',
        kind: 'price-line',
        label: '',
        field: 'from',
        value: quantity,
        expected: null,
      },
    })
  const named = row.get('list')
  const list = named === undefined ? chosen : finder.list(named)
  if (named !== undefined && !list)
    book.refuse(number, {
      code: 'unknown',
      field: 'Price list',
      value: named,
      nearest: finder.nearestList(named),
    })
  const texts = [
    ...[...row]
      .filter(([key]) => key.startsWith(LIST_PRICE))
      .map(([key, text]) => ({ list: finder.list(key.slice(LIST_PRICE.length)), text })),
    ...(row.has('price') ? [{ list, text: row.get('price') as string }] : []),
  ]
  if (texts.length === 0) book.refuse(number, { code: 'no-price' })
  return texts.flatMap(({ list: to, text }) => {
    const isNone = text.toLowerCase() === NONE
    const method = isNone
      ? null
      : parseMethodText(ruleText(text, mark), (code) => finder.list(code)?.id ?? null)
    if (method === null && !isNone) book.refuse(number, { code: 'not-a-rule', value: text })
    if (!to || from === null) {
      // A price without a list: the file has a column for lists, and the row leaves it empty.
      if (named === undefined && from !== null)
        book.refuse(number, { code: 'no-key', fields: ['Price list'] })
      return []
    }
    return [{ list: to, price: { row: number, from, method } }]
  })
}

/** A rule with its amounts written as the product writes them. */
function ruleText(text: string, mark: ReadingInput['mark']): string {
  const amount = plainAmount(text, mark)
  if (amount !== text) return amount
  return mark === 'comma' ? text.replace(/(\d),(\d)/g, '$1.$2') : text
}

/** The record's own check of a price by itself: a row that is wrong in one list is taken into none. */
function checkPrice(
  { context }: ReadingInput,
  book: RowBook,
  list: PriceList,
  term: WhatTerm,
  { row, from, method }: RowPrice,
): void {
  if (method === null) return
  const alone: PriceLineInput = {
    ...RECORD_DEFAULTS['price-line'],
    id: '',
    list: list.id,
    scope: { include: [term], exclude: [] },
    breaks: [{ from, method }],
  }
  const parsed = parseRecord('price-line', alone, context)
  if (!parsed.ok) for (const issue of parsed.issues) book.refuse(row, { code: 'record', issue })
}

/** Lays the prices of one item over the line it has in a list. */
function mergeLine(
  { store, context, newId }: ReadingInput,
  book: RowBook,
  shelf: LineShelf,
  { list, term, prices }: LineGroup,
): readonly RecordInput[] {
  const right = prices.filter(({ row }) => !book.isWrong(row))
  if (right.length === 0) return []
  const own = shelf.own(list.id, term)
  const codeOf = (id: string) => store['price-list'].get(id)?.code ?? id
  const before = own ? breaksText(own, codeOf) : ''
  const say = (after: string) => {
    for (const { row } of right) if (before !== after) book.effect(row, { field: list.name, before, after })
  }
  const ruled = right.flatMap(({ from, method }) => (method ? [{ from, method }] : []))
  if (ruled.length === 0) {
    if (!own) return []
    say('')
    return [{ kind: 'price-line', id: own.id, after: null }]
  }
  const breaks = ruled.sort((left, other) => compare(left.from, other.from))
  const draft: PriceLineInput = own
    ? { ...own, breaks }
    : {
        ...RECORD_DEFAULTS['price-line'],
        id: newId(),
        list: list.id,
        position: shelf.nextPosition(list.id),
        scope: { include: [term], exclude: [] },
        breaks,
      }
  const parsed = parseRecord('price-line', draft, context)
  if (!parsed.ok) {
    for (const { row } of right)
      for (const issue of parsed.issues) book.refuse(row, { code: 'record', issue })
    return []
  }
  if (!own) for (const { row } of right) book.markNew(row)
  const after = breaksText(parsed.value, codeOf)
  if (own && before === after) return []
  say(after)
  shelf.letGo(list.id, term)
  return [{ kind: 'price-line', id: draft.id, after: parsed.value }]
}
