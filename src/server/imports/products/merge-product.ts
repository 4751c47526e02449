import {
  NO_AMOUNTS,
  findOwnAmount,
  type OwnAmounts,
  type Product,
  type Variant,
} from '@/core/catalogue/product'
import type { Decimal } from '@/core/decimal/decimal'
import { parseDecimal } from '@/core/decimal/decimal'
import type { Issue } from '@/core/issue/issue'
import { parseRecord } from '@/core/store/parse-record'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { type CategoryBook, categoryTexts } from './category-book'
import { describeProduct } from './describe-product'
import { NONE } from '../import-field'
import { PLACED_FIELDS, type PlacedField, placedValue } from '../placed-fields'
import { gtinOf, type Member, type ProductGroup, type ProductRow } from './product-group'
import type { ProductNames } from './product-names'
import type { ReadingInput, RecordInput } from '../reading'
import { countsThatDiffer, type StockCount } from '../../stock/move-stock'
import type { RowBook } from '../row-outcome'

/** Lays the rows of one product over what there is of it. Rows that do not go are refused in the book. */
export function mergeProduct(
  input: ReadingInput,
  book: RowBook,
  names: ProductNames,
  categories: CategoryBook,
  group: ProductGroup,
): Merging {
  const { product: known } = group
  if (!known) refuseBareProduct(book, group)
  const beginning: Product = known ?? { ...NEW_PRODUCT, id: input.newId(), code: group.code }
  const said = sayProduct(book, names, categories, group, beginning)
  const rows = () => group.rows.filter(({ number }) => !book.isWrong(number))
  const axes = known ? known.axes : [...new Set(rows().flatMap(({ options }) => [...options.keys()]))]
  let members = toMembers(input, book, group, { ...said, axes }, rows())
  members = members.filter(({ row }) => !book.isWrong(row.number))
  if (members.length === 0) return NOTHING

  let product: Product = { ...said, axes }
  const alone =
    new Set([...group.variants.map(({ id }) => id), ...members.map(({ after }) => after.id)]).size === 1
  const level: Level = alone ? 'alone' : known ? 'several' : 'together'
  for (const field of PLACED_FIELDS) product = placeValue(product, members, field, level)
  for (const currency of new Set(members.flatMap(({ row }) => [...row.own.keys()])))
    product = placeOwnPrice(product, members, currency, level)

  const drafts = check(input, book, known, product, members)
  if (!drafts) return NOTHING
  describeProduct(input, book, { names, categories }, { before: known, after: product, members })
  return { drafts, counts: countsOf(input, book, members) }
}

/** What a product's rows come to. */
interface Merging {
  readonly drafts: readonly RecordInput[]
  readonly counts: readonly StockCount[]
}

const NOTHING: Merging = { drafts: [], counts: [] }

/** Counts that differ from what there is. */
function countsOf({ stock }: ReadingInput, book: RowBook, members: readonly Member[]): readonly StockCount[] {
  const told = members.filter(({ row }) => row.stock !== undefined && !book.isWrong(row.number))
  return countsThatDiffer(
    stock,
    told.map(({ row, after }) => [after.id, toDecimal(row.stock ?? null)] as const),
  )
}

const NEW_PRODUCT = { ...RECORD_DEFAULTS.product, name: '', categories: [] } as const

function refuseBareProduct(book: RowBook, { rows }: ProductGroup): void {
  for (const [key, field] of [
    ['name', 'Name'],
    ['categories', 'Categories'],
  ] as const) {
    if (rows.some(({ cells }) => cells.has(key))) continue
    for (const { number } of rows) book.refuse(number, { code: 'needed-when-new', field })
  }
}

/** The product with what its rows say of it as a whole; they must not contradict each other. */
function sayProduct(
  book: RowBook,
  names: ProductNames,
  categories: CategoryBook,
  { rows }: ProductGroup,
  beginning: Product,
): Product {
  const agreed = (field: string, say: (row: ProductRow) => string | undefined): string | undefined => {
    let first: { readonly text: string; readonly row: number } | undefined
    for (const row of rows) {
      const text = say(row)
      if (text === undefined || book.isWrong(row.number)) continue
      if (first === undefined) first = { text, row: row.number }
      else if (text !== first.text)
        book.refuse(row.number, { code: 'differs', field, value: text, other: first.text, row: first.row })
    }
    return first?.text
  }
  const text = (key: string, field: string) => agreed(field, ({ cells }) => cells.get(key))
  const name = text('name', 'Name')
  const description = text('description', 'Description')
  const unit = text('unit', 'Unit of sale')
  const filed = text('categories', 'Categories')
  const family = text('family', 'Price family')
  const attributeNames = new Set(rows.flatMap(({ attributes }) => [...attributes.keys()]))
  const attributes = { ...beginning.attributes }
  for (const attribute of attributeNames) {
    const value = agreed(attribute, (row) => row.attributes.get(attribute))
    if (value === undefined) continue
    if (value.toLowerCase() === NONE) delete attributes[attribute]
    else attributes[attribute] = value
  }
  const isMade = rows.some(({ number }) => !book.isWrong(number))
  return {
    ...beginning,
    ...(name !== undefined && { name }),
    ...(description !== undefined && { description: description.toLowerCase() === NONE ? '' : description }),
    ...(unit !== undefined && { unit }),
    ...(family !== undefined && {
      family: family.toLowerCase() === NONE ? null : (names.family(family)?.id ?? null),
    }),
    ...(filed !== undefined &&
      isMade && {
        categories: [...new Set(categoryTexts(filed).map((each) => categoryOf(categories, each)))],
      }),
    attributes,
  }
}

function categoryOf(categories: CategoryBook, text: string): string {
  const found = categories.find(text)
  return found.ok && found.id !== null ? found.id : categories.make(text)
}

/** The variants the rows are, with their options and status. */
function toMembers(
  input: ReadingInput,
  book: RowBook,
  { variants }: ProductGroup,
  product: Product,
  rows: readonly ProductRow[],
): Member[] {
  const bySku = new Map(variants.map((variant) => [variant.sku.toLowerCase(), variant]))
  const inFile = new Set(rows.map(({ sku }) => sku.toLowerCase()))
  const optionsKey = (options: Variant['options']) => product.axes.map((axis) => options[axis]).join('\n')
  const taken = new Map(
    variants
      .filter(({ sku }) => !inFile.has(sku.toLowerCase()))
      .map(({ options, sku }) => [optionsKey(options), sku]),
  )
  let position = Math.max(-1, ...variants.map((variant) => variant.position)) + 1
  return rows.map((row) => {
    const before = bySku.get(row.sku.toLowerCase()) ?? null
    const options: Record<string, string> = { ...before?.options }
    for (const [axis, value] of row.options) {
      if (product.axes.includes(axis)) options[axis] = value
      else book.refuse(row.number, { code: 'option-unknown', axis, product: product.code })
    }
    for (const axis of product.axes)
      if (options[axis] === undefined) book.refuse(row.number, { code: 'option-absent', axis })
    const other = taken.get(optionsKey(options))
    if (other !== undefined) book.refuse(row.number, { code: 'options-alike', sku: other })
    taken.set(optionsKey(options), row.sku)
    const status = row.cells.get('status')?.toLowerCase()
    const gtin = gtinOf(row)
    const after: Variant = {
      ...(before ?? {
        ...RECORD_DEFAULTS.variant,
        id: input.newId(),
        sku: row.sku,
        product: product.id,
        position: position++,
      }),
      options,
      ...(status !== undefined && { status: status as Variant['status'] }),
      ...(gtin !== undefined && { gtin }),
    }
    return { row, before, after }
  })
}

/**
 * Where a value goes: to the product when its variant is alone, for a new product when all rows agree, else to the
 * variant, unless it takes the same over already.
 */
type Level = 'alone' | 'together' | 'several'

function placeValue(product: Product, members: readonly Member[], field: PlacedField, level: Level): Product {
  const given = members.filter(({ row }) => row.values.has(field.key))
  const [first] = given
  if (!first) return product
  const valueOf = ({ row }: Member) => {
    const text = row.values.get(field.key) ?? null
    return field.kind === 'tax-class' || field.kind === 'content' ? text : toDecimal(text)
  }
  if (level === 'alone') {
    const value = valueOf(first)
    const isOwn = value !== null && field.read(first.after) !== null
    first.after = field.write(first.after, isOwn ? value : null)
    return isOwn ? product : field.write(product, value)
  }
  const shared = valueOf(first)
  const isShared = given.length === members.length && given.every((member) => valueOf(member) === shared)
  if (level === 'together' && isShared) return field.write(product, shared)
  for (const member of given) {
    const value = valueOf(member)
    if (value !== null && placedValue(field, product, member.after) === value) continue
    member.after = field.write(member.after, value)
  }
  return product
}

function placeOwnPrice(
  product: Product,
  members: readonly Member[],
  currency: string,
  level: Level,
): Product {
  const given = members.filter(({ row }) => row.own.has(currency))
  const valueOf = ({ row }: Member) => toDecimal(row.own.get(currency) ?? null)
  const [first] = given as [Member]
  const shared = valueOf(first)
  const isShared =
    level === 'alone' ||
    (level === 'together' &&
      given.length === members.length &&
      given.every((member) => valueOf(member) === shared))
  // A product's own amount is taken over only together with its price at home.
  const isTakenOver = given.every(
    ({ after }) => after.basePrice === null && (after.ownAmounts[currency]?.basePrice ?? null) === null,
  )
  if (isShared && isTakenOver)
    return { ...product, ownAmounts: withBasePrice(product.ownAmounts, currency, shared) }
  for (const member of given) {
    const value = valueOf(member)
    if (value !== null && findOwnAmount(product, member.after, 'basePrice', currency) === value) continue
    member.after = {
      ...member.after,
      ownAmounts: withBasePrice(member.after.ownAmounts, currency, value),
    }
  }
  return product
}

function withBasePrice(own: OwnAmounts, currency: string, basePrice: Decimal | null): OwnAmounts {
  const amounts = { ...NO_AMOUNTS, ...own[currency], basePrice }
  const { [currency]: _before, ...others } = own
  return Object.values(amounts).every((amount) => amount === null) ? others : { ...own, [currency]: amounts }
}

/** Amounts were checked row by row, so each is a decimal here. */
function toDecimal(text: string | null): Decimal | null {
  return text === null ? null : parseDecimal(text)
}

/** The drafts that differ from what there is; `null` when the records as a whole do not go. */
function check(
  { context }: ReadingInput,
  book: RowBook,
  known: Product | null,
  product: Product,
  members: readonly Member[],
): readonly RecordInput[] | null {
  const refuse = (row: ProductRow, issues: readonly Issue[]) => {
    for (const issue of issues) book.refuse(row.number, { code: 'record', issue })
  }
  const parsed = parseRecord('product', product, context)
  if (!parsed.ok) {
    for (const { row } of members) refuse(row, parsed.issues)
    return null
  }
  const drafts: RecordInput[] = isSame(known, parsed.value)
    ? []
    : [{ kind: 'product', id: product.id, after: parsed.value }]
  for (const { row, before, after } of members) {
    const variant = parseRecord('variant', after, context)
    if (!variant.ok) refuse(row, variant.issues)
    else if (!isSame(before, variant.value))
      drafts.push({ kind: 'variant', id: after.id, after: variant.value })
  }
  // A new product of which no variant is left is not made.
  return known || drafts.some(({ kind }) => kind === 'variant') ? drafts : null
}

function isSame(before: unknown, after: unknown): boolean {
  return JSON.stringify(before) === JSON.stringify(after)
}
