import { checkDigit } from '@/core/catalogue/gtin'
import { DEMO_PROMOTIONS } from './promotions'
import { DEMO_PROOFS } from './proofs'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import type { ProductInput, VariantInput } from '@/core/catalogue/parse-catalogue'
import type { Category } from '@/core/catalogue/category'
import type { PriceLineInput, PriceListInput } from '@/core/price/lines/parse-price-list'
import type { Settings } from '@/core/store/store'
import { EVERYTHING } from '@/core/predicates/what'
import { ALWAYS } from '@/core/predicates/when'
import { EVERYWHERE } from '@/core/predicates/where'
import { type Decimal, decimal } from '@/core/decimal/decimal'
import { divide, toFraction } from '@/core/decimal/fraction'
import { roundPrice } from '@/core/decimal/rounding'
import { DEMO_CATEGORIES, type DemoCategory } from './categories'
import { DEMO_ACCOUNTS, DEMO_GROUPS } from './buyers'
import type { DemoProduct } from './demo-product'
import { DEMO_ADJUSTMENTS, DEMO_CONTRACTS, DEMO_EXTRAS, DEMO_FAMILIES } from './agreements'
import { DEMO_CHANNELS, DEMO_CURRENCIES, DEMO_RATES, DEMO_REGIONS } from './money'
import { demoBreaks, DEMO_LISTS, demoScope } from './price-lists'
import {
  DEMO_ACCESS_RULES,
  DEMO_LIMITS,
  DEMO_PASSCODES,
  DEMO_TAX_CLASSES,
  DEMO_TAX_RATES,
  DEMO_TAXES,
} from './terms'
import { BEE_PRODUCTS } from './products-bees'
import { HIVE_PRODUCTS } from './products-hives'
import { HONEY_PRODUCTS } from './products-honey'
import { DEMO_CONTENT } from './contents'
import { DEMO_STOCK } from './stock'

const DEMO_PRODUCTS: readonly DemoProduct[] = [...HIVE_PRODUCTS, ...HONEY_PRODUCTS, ...BEE_PRODUCTS]

const DEMO_SETTINGS: Settings = {
  ...RECORD_DEFAULTS.settings,
  id: 'settings',
  shopHeadline: 'Everything between the bee and the jar.',
  shopContact:
    'Write to hello@shop.example, or call on weekdays from nine to five. Tell us what you are looking for.',
  name: 'Clover Tarn Apiary Supply',
  currency: 'EUR',
  priceDigits: 2,
  timeZone: 'Europe/Dublin',
  country: 'IE',
  taxBasis: 'net',
  policy: 'first',
  neverAbovePublic: false,
  comparedWith: 'public',
  taxClass: 'tax-class-standard',
  unionCountries: ['IE', 'FR', 'DE', 'AT', 'IT', 'NL', 'PT', 'DK'],
  taxRegistrations: { IE: 'IE7654321T' },
  deliveryPrice: decimal('6.90'),
  deliveryFreeFrom: decimal(150),
  quoteMargin: decimal(5),
  shopEmail: 'hello@clovertarn.example',
}

/** The made-up merchant's records, by kind, in the order they are shown. The same every time. */
export interface DemoRecords {
  readonly settings: readonly Settings[]
  readonly currency: typeof DEMO_CURRENCIES
  readonly 'exchange-rate': typeof DEMO_RATES
  readonly channel: typeof DEMO_CHANNELS
  readonly region: typeof DEMO_REGIONS
  readonly 'tax-class': typeof DEMO_TAX_CLASSES
  readonly tax: typeof DEMO_TAXES
  readonly 'tax-rate': typeof DEMO_TAX_RATES
  readonly category: readonly Category[]
  readonly 'price-family': typeof DEMO_FAMILIES
  readonly group: typeof DEMO_GROUPS
  readonly account: typeof DEMO_ACCOUNTS
  readonly product: readonly ProductInput[]
  readonly variant: readonly VariantInput[]
  readonly extra: typeof DEMO_EXTRAS
  readonly contract: typeof DEMO_CONTRACTS
  readonly adjustment: typeof DEMO_ADJUSTMENTS
  readonly 'price-list': readonly PriceListInput[]
  readonly 'price-line': readonly PriceLineInput[]
  readonly limit: typeof DEMO_LIMITS
  readonly 'access-rule': typeof DEMO_ACCESS_RULES
  readonly passcode: typeof DEMO_PASSCODES
  readonly promotion: typeof DEMO_PROMOTIONS
  readonly proof: typeof DEMO_PROOFS
}

export function demoRecords(): DemoRecords {
  return {
    settings: [DEMO_SETTINGS],
    currency: DEMO_CURRENCIES,
    'exchange-rate': DEMO_RATES,
    channel: DEMO_CHANNELS,
    region: DEMO_REGIONS,
    'tax-class': DEMO_TAX_CLASSES,
    tax: DEMO_TAXES,
    'tax-rate': DEMO_TAX_RATES,
    limit: DEMO_LIMITS,
    'access-rule': DEMO_ACCESS_RULES,
    passcode: DEMO_PASSCODES,
    promotion: DEMO_PROMOTIONS,
    proof: DEMO_PROOFS,
    category: flattenCategories(DEMO_CATEGORIES, null),
    'price-family': DEMO_FAMILIES,
    extra: DEMO_EXTRAS,
    contract: DEMO_CONTRACTS,
    adjustment: DEMO_ADJUSTMENTS,
    group: DEMO_GROUPS,
    account: DEMO_ACCOUNTS,
    product: DEMO_PRODUCTS.map(toProduct),
    variant: DEMO_PRODUCTS.flatMap(toVariants).map(withGtin),
    'price-list': DEMO_LISTS.map(
      ({ lines: _lines, otherwise, rounding, state, currency, schedule, ...list }) => ({
        ...list,
        id: `list-${list.code}`,
        state: state ?? 'on',
        status: 'active',
        currency: currency ?? DEMO_SETTINGS.currency,
        taxBasis: 'net',
        scope: EVERYTHING,
        place: EVERYWHERE,
        schedule: { ...ALWAYS, ...schedule },
        onlyListed: false,
        defaultLine: otherwise === undefined ? null : demoBreaks(otherwise),
        rounding: rounding ?? null,
      }),
    ),
    'price-line': DEMO_LISTS.flatMap(({ code, lines }) =>
      lines.map(([scope, methods, rounding, counting, pricing], position) => ({
        id: `line-${code}-${position + 1}`,
        list: `list-${code}`,
        position,
        scope: { include: demoScope(scope), exclude: [] },
        schedule: null,
        ...demoBreaks(methods, counting, pricing),
        rounding: rounding ?? null,
      })),
    ),
  }
}

function flattenCategories(categories: readonly DemoCategory[], parent: string | null): readonly Category[] {
  return categories.flatMap(({ code, name, children }, position) => {
    const id = `category-${code}`
    return [{ id, code, name, parent, position, status: 'active' }, ...flattenCategories(children ?? [], id)]
  })
}

function toProduct(product: DemoProduct): ProductInput {
  return {
    ...RECORD_DEFAULTS.product,
    id: `product-${product.code}`,
    code: product.code,
    name: product.name,
    description: product.about,
    picture: product.picture,
    unit: product.unit ?? 'each',
    status: 'active',
    taxClass: taxClassOf(product.in),
    categories: product.in.map((code) => `category-${code}`),
    attributes: product.has ?? {},
    axes: product.by ?? [],
    backOrder: product.whileStocksLast !== true,
    basePrice: product.price ?? null,
    cost: product.cost ?? null,
    recommendedPrice: product.rrp ?? null,
    floor: null,
    family: BEESWAX.test(product.code) ? 'family-beeswax' : null,
    ownAmounts: sterlingBase(product.gbp),
    weight: product.kg ?? null,
  }
}

/** What is taxed otherwise than the store's usual class, by the branch it is filed under. */
const TAXED_OTHERWISE: Readonly<Record<string, string>> = {
  books: 'tax-class-books',
  syrup: 'tax-class-reduced',
  fondant: 'tax-class-reduced',
  'protein-feed': 'tax-class-reduced',
}

function taxClassOf([branch = '']: readonly string[]): string | null {
  return TAXED_OTHERWISE[branch] ?? null
}

/** What is made of wax and priced together with it. */
const BEESWAX = /^WF-/

/** A base price of its own in sterling. */
function sterlingBase(basePrice: string | undefined): ProductInput['ownAmounts'] {
  if (basePrice === undefined) return {}
  return { GBP: { basePrice, cost: null, recommendedPrice: null, floor: null } }
}

function toVariants(product: DemoProduct): readonly VariantInput[] {
  const variants = product.variants ?? [[null, []] as const]
  return variants.map(([suffix, options, own], position) => {
    const sku = suffix === null ? product.code : `${product.code}-${suffix}`
    return {
      ...RECORD_DEFAULTS.variant,
      id: `variant-${sku}`,
      sku,
      product: `product-${product.code}`,
      options: Object.fromEntries((product.by ?? []).map((axis, at) => [axis, options[at] ?? ''])),
      position,
      basePrice: own?.price ?? null,
      cost: own?.cost ?? null,
      recommendedPrice: own?.rrp ?? recommendedLike(product, own?.price),
      floor: null,
      family: null,
      ownAmounts: sterlingBase(own?.gbp),
      content: DEMO_CONTENT[sku] ?? null,
      status: 'active',
      weight: own?.kg ?? null,
    }
  })
}

/** A made-up number: those that begin with 20 are for use within a company (GS1 General Specifications, from memory). */
function withGtin(variant: VariantInput, at: number): VariantInput {
  const digits = `20${String(71_000 + at * 13).padStart(10, '0')}`
  return { ...variant, gtin: `${digits}${checkDigit(digits)}` }
}

/** A variant with its own price is recommended as far above it as its product is, ending in .90. */
function recommendedLike(product: DemoProduct, price: string | undefined): string | null {
  if (price === undefined || product.rrp === undefined || product.price === undefined) return null
  const ratio = divide(decimal(product.rrp), decimal(product.price))
  const exact = toFraction(decimal(price))
  return roundPrice(
    { numerator: exact.numerator * ratio.numerator, denominator: exact.denominator * ratio.denominator },
    { kind: 'endings', period: decimal(1), endings: [decimal('0.90')], mode: 'nearest' },
  )
}

/** What the made-up merchant counted when the store was set up, by id of the variant. */
export function demoCounts(): readonly { readonly variant: string; readonly counted: Decimal }[] {
  return Object.entries(DEMO_STOCK).map(([sku, counted]) => ({
    variant: `variant-${sku}`,
    counted: decimal(counted),
  }))
}
