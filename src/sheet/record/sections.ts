import type { RecordKind } from '@/core/issue/issue'

/** A place of the merchant's frame that holds records of one kind. */
export interface Section {
  /** In the address: `/contracts`. */
  readonly path: string
  readonly kind: EditableKind
  readonly title: string
  readonly singular: string
  /** Sections that stand side by side under one place. */
  readonly place: string
  /** What the place is for, and why one would make the first one. */
  readonly about: string
}

/** Kinds whose records have a sheet made of their fields; lines and rates belong to others. */
export type EditableKind = Exclude<RecordKind, 'price-line' | 'exchange-rate' | 'tax-rate'>

const SECTIONS: readonly Section[] = [
  section(
    'settings',
    'settings',
    'Store',
    'store',
    'Store',
    'What holds for the whole store: which of several prices counts, and what the shop compares with.',
  ),
  section(
    'accounts',
    'account',
    'Accounts',
    'account',
    'Buyers',
    'A company or person who signs in: their groups, tags and addresses decide which prices they stand before.',
  ),
  section(
    'groups',
    'group',
    'Groups',
    'group',
    'Buyers',
    'Customers who are treated alike. A price list for a group is its price level.',
  ),
  section(
    'contracts',
    'contract',
    'Contracts',
    'contract',
    'Contracts',
    'What was agreed with some buyers for a period: the price lists that come first for them, and on which terms.',
  ),
  section(
    'currencies',
    'currency',
    'Currencies',
    'currency',
    'Currencies',
    'What buyers can pay in beside the store’s own currency, at which rates and rounded how.',
  ),
  section(
    'regions',
    'region',
    'Regions',
    'region',
    'Currencies',
    'Countries that are sold to alike: which currency they pay in, and whether prices show with tax.',
  ),
  section(
    'channels',
    'channel',
    'Channels',
    'channel',
    'Currencies',
    'Shop fronts and other ways to sell. Lists and adjustments can be for some of them only.',
  ),
  section(
    'promotions',
    'promotion',
    'Promotions',
    'promotion',
    'Promotions',
    'What a cart costs less by: prices of items, sets, free goods, vouchers, delivery. A price list says what an item costs.',
  ),
  section(
    'proofs',
    'proof',
    'Proofs',
    'proof',
    'Proofs',
    'What must stay true, whatever anybody changes. They run before each publication, and one that breaks stops it.',
  ),
  section(
    'adjustments',
    'adjustment',
    'Adjustments',
    'adjustment',
    'Adjustments',
    'Switches that move prices for a while. Nothing stored changes, so switching one off restores everything.',
  ),
  section(
    'tax-classes',
    'tax-class',
    'Classes',
    'tax class',
    'Taxes',
    'What goods are to those who tax them. A product takes the store’s usual class unless it names its own.',
  ),
  section(
    'tax-names',
    'tax',
    'Taxes',
    'tax',
    'Taxes',
    'Levies by their names, and which of them are calculated on top of others.',
  ),
  section(
    'limits',
    'limit',
    'Limits',
    'limit',
    'Limits',
    'How many of what some buyers may buy: each by itself, a product’s variants, or a whole branch together.',
  ),
  section(
    'access-rules',
    'access-rule',
    'Rules',
    'access rule',
    'Access',
    'Who sees what, sees its price, and buys it. Where several rules reach the same thing, the nearer one counts.',
  ),
  section(
    'passcodes',
    'passcode',
    'Passcodes',
    'passcode',
    'Access',
    'Words given to a closed circle: they open a channel, and rules and lists can be for whoever has one.',
  ),
  section(
    'categories',
    'category',
    'Categories',
    'category',
    'Catalogue',
    'The branches of the catalogue’s tree. A rule for a branch reaches everything below it.',
  ),
  section(
    'families',
    'price-family',
    'Price families',
    'price family',
    'Catalogue',
    'Variants that are priced together, wherever in the catalogue they are.',
  ),
  section(
    'extras',
    'extra',
    'Extras',
    'extra',
    'Catalogue',
    'Optional paid additions, such as assembly: price lists can name them like a variant.',
  ),
  section(
    'products',
    'product',
    'Products',
    'product',
    'Products',
    'What a page of the shop is about: its variants, and their prices in every list and contract.',
  ),
  section(
    'variant-records',
    'variant',
    'Variants',
    'variant',
    'Products',
    'What is priced, stocked and bought.',
  ),
  section(
    'price-lists',
    'price-list',
    'Price lists',
    'price list',
    'Price lists',
    'Prices for an audience. Their lines stand on the list’s own sheet.',
  ),
]

/** Every kind that has a section. */
export const EDITABLE_KINDS: readonly EditableKind[] = SECTIONS.map(({ kind }) => kind)

/** Pages beside the records of a place, first among its tabs. */
const PLACE_PAGES = [
  { place: 'Taxes', path: 'taxes', title: 'Rates' },
  { place: 'Limits', path: 'limits-in-force', title: 'In force' },
  { place: 'Access', path: 'access', title: 'Who sees what' },
  { place: 'Access', path: 'assortments', title: 'Assortments' },
] as const

/** The same behind the records. */
const PAGES_BEHIND = [{ place: 'Promotions', path: 'promotion-clashes', title: 'Clashes' }] as const

/** Every page of a place, in the order of its tabs. */
export function tabsOf(place: string): readonly { readonly path: string; readonly title: string }[] {
  return [...PLACE_PAGES, ...SECTIONS, ...PAGES_BEHIND].filter((each) => each.place === place)
}

function section(
  path: string,
  kind: EditableKind,
  title: string,
  singular: string,
  place: string,
  about: string,
): Section {
  return { path, kind, title, singular, place, about }
}

export function findSection(path: string): Section | null {
  return SECTIONS.find((each) => each.path === path) ?? null
}

export function sectionOf(kind: EditableKind): Section {
  return SECTIONS.find((each) => each.kind === kind) as Section
}
