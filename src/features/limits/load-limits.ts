import 'server-only'

import { type Product, type Variant, itemName } from '@/core/catalogue/product'
import { findLimits, isSingle, type LimitSource } from '@/core/engine/rules/find-limits'
import { isForEverything, LIMIT_FIELDS, type LimitField, type LimitRule } from '@/core/limits/limit'
import type { Store } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import { orderedProducts, shownProducts } from '@/server/engine/catalogue-order'
import type { RequestContext } from '@/server/engine/request-context'
import { Remembered, wordOf } from '@/server/engine/remembered'
import { limitPhrase } from '@/ui/format/terms-phrases'
import { recordHref } from '@/ui/frame/record-href'

/** One field of a limit, and the level that set it. */
interface LimitCell {
  readonly text: string
  readonly by: string
  readonly href: string | null
}

interface LimitedItem {
  readonly sku: string
  readonly product: string
  readonly name: string
  readonly cells: readonly (LimitCell | null)[]
  /** Rules that count it together with others, or over days. */
  readonly together: readonly { readonly name: string; readonly href: string; readonly text: string }[]
}

export interface LimitsView {
  readonly buyer: string
  readonly find: string
  /** Rules that count every order as a whole. */
  readonly orders: LimitedItem['together']
  readonly items: readonly LimitedItem[]
  /** How many more there are. */
  readonly more: number
}

const MOST_SHOWN = 150

/** The limits in force for whoever is looked as: of what was searched for, or of everything that has any. */
export async function loadLimits(requestContext: RequestContext, find: string): Promise<LimitsView> {
  const { prepared, pricingContext, buyerName } = requestContext
  const { store } = prepared
  const items = find === '' ? await limitedItems(requestContext) : itemsNamed(store, find)
  return {
    buyer: buyerName,
    find,
    orders: pricingContext.terms.limits
      .map(({ rule }) => rule)
      .filter((rule) => !isSingle(rule) && isForEverything(rule))
      .map(toRule),
    items: items.slice(0, MOST_SHOWN).map((item) => toLimited(requestContext, item)),
    more: Math.max(0, items.length - MOST_SHOWN),
  }
}

interface Item {
  readonly product: Product
  readonly variant: Variant
}

function itemsNamed(store: Store, text: string): readonly Item[] {
  return shownProducts(store, { category: null, text }).flatMap(({ product, variants }) =>
    variants.map((variant) => ({ product, variant })),
  )
}

const LIMITED = new Remembered<readonly Item[]>('limited')

/** Everything that has a limit, in the order of the catalogue. */
function limitedItems({ prepared, pricingContext }: RequestContext): Promise<readonly Item[]> {
  return LIMITED.of({ prepared }, wordOf(pricingContext), async () => {
    const limited: Item[] = []
    const slices = new Slices()
    for (const { product, variants } of orderedProducts(prepared.store))
      for (const variant of variants) {
        if (slices.isDue()) await slices.rest()
        const { setBy, together } = findLimits(
          prepared,
          pricingContext,
          prepared.index.numberOf.get(variant.id) as number,
        )
        if (Object.keys(setBy).length > 0 || together.some((rule) => !isForEverything(rule)))
          limited.push({ product, variant })
      }
    return limited
  })
}

function toLimited({ prepared, pricingContext }: RequestContext, { product, variant }: Item): LimitedItem {
  const { store, index } = prepared
  const found = findLimits(prepared, pricingContext, index.numberOf.get(variant.id) as number)
  return {
    sku: variant.sku,
    product: product.code,
    name: itemName(product, variant),
    cells: LIMIT_FIELDS.map((field) =>
      toCell(store, field, found.limits[field], found.setBy[field], product.code),
    ),
    together: found.together.filter((rule) => !isForEverything(rule)).map(toRule),
  }
}

function toRule(rule: LimitRule): LimitedItem['together'][number] {
  return { name: rule.name, href: recordHref('limits', rule.code), text: limitPhrase(rule) }
}

function toCell(
  store: Store,
  field: LimitField,
  value: string | readonly { readonly quantity: string }[] | null,
  source: LimitSource | undefined,
  product: string,
): LimitCell | null {
  if (value === null || !source) return null
  const text = typeof value === 'string' ? value : value.map(({ quantity }) => quantity).join(', ')
  if (source.kind !== 'rule') return { text, by: `its ${source.kind}`, href: recordHref('products', product) }
  const rule = store.limit.get(source.rule)
  return { text, by: rule?.name ?? field, href: recordHref('limits', rule?.code ?? '') }
}
