import { type CustomerGroup, type Account } from '../buyers/buyer'
import { parseAccount, parseGroup } from '../buyers/parse-buyers'
import type { Category } from '../catalogue/category'
import {
  parseCategory,
  parseProduct,
  parseVariant,
  type ProductDraft,
  type VariantDraft,
} from '../catalogue/parse-catalogue'
import { findMinorDigits } from '../currency/iso-4217'
import { DraftReader } from '../issue/draft-reader'
import type { Parsed, RecordKind } from '../issue/issue'
import {
  parsePriceLine,
  parsePriceList,
  type PriceLineDraft,
  type PriceListDraft,
} from '../price/parse-price-list'
import type { RecordOfKind, Settings } from './store'

/** Each kind of record as it is submitted: right in shape, not yet in meaning. */
export interface DraftOfKind {
  readonly settings: Settings
  readonly category: Category
  readonly product: ProductDraft
  readonly variant: VariantDraft
  readonly group: CustomerGroup
  readonly account: Account
  readonly 'price-list': PriceListDraft
  readonly 'price-line': PriceLineDraft
}

type Parsers = {
  readonly [Kind in RecordKind]: (draft: DraftOfKind[Kind], digits: number) => Parsed<RecordOfKind[Kind]>
}

const PARSERS: Parsers = {
  settings: parseSettings,
  category: parseCategory,
  product: parseProduct,
  variant: parseVariant,
  group: parseGroup,
  account: parseAccount,
  'price-list': parsePriceList,
  'price-line': parsePriceLine,
}

/**
 * The only way from something submitted to a record: whoever holds a record need not check it again.
 * What a record says of others (that they exist, that codes are unique) is checked against the store.
 */
export function parseRecord<Kind extends RecordKind>(
  kind: Kind,
  draft: DraftOfKind[Kind],
  digits: number,
): Parsed<RecordOfKind[Kind]> {
  return PARSERS[kind](draft, digits)
}

function parseSettings(draft: Settings): Parsed<Settings> {
  const reader = new DraftReader('settings', draft.name)
  const minorDigits = findMinorDigits(draft.currency)
  if (minorDigits === null) reader.report('unknown', 'currency', draft.currency, 'EUR')
  const priceDigits = reader.wholeNumber('priceDigits', draft.priceDigits, minorDigits ?? 0)
  if (priceDigits > 6) reader.report('too-many-digits', 'priceDigits', String(priceDigits), '6')
  return reader.result({ ...draft, name: reader.text('name', draft.name) })
}
