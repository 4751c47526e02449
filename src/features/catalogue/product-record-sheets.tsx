import 'server-only'

import { type Product, type Variant, variantName } from '@/core/catalogue/product'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import { factsOf } from '@/core/engine/catalogue-index'
import type { PreparedStore } from '@/core/engine/prepared-store'
import { matchWhat, type WhatTerm } from '@/core/predicates/what'
import { changeEffect, ChangeEffectTables } from '@/sheet/effect/change-effect'
import { type Mention, mentionsOfItem } from '@/sheet/effect/mentions'
import { MentionList } from '@/sheet/parts/mention-list'
import { SheetTable } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { formatAmount } from '@/ui/format/amount'
import { recordHref } from '@/ui/frame/record-href'
import { VantageLink } from '@/ui/frame/vantage-link'
import { productDetails, productSentence } from './catalogue-sentences'
import { variantDetails, variantSentence } from './variant-sentence'

export const productRecordSheet: SheetOfKind = {
  sentence: productSentence,
  details: productDetails,
  about: (record) => String(record['code']),
  effect: drawProduct,
}

export const variantSheet: SheetOfKind = {
  sentence: variantSentence,
  details: variantDetails,
  effect: drawVariant,
}

/** The variants of a product with what each sets itself. */
async function drawProduct(loaded: LoadedSheet): Promise<SheetEffect> {
  const { before, after, id, stored } = loaded
  const { store } = (after ?? before).prepared
  const product = store.product.get(id)
  if (!product || !stored)
    return {
      main: <p className="text-soft">A name is enough to begin with; then give it variants.</p>,
      side: null,
    }
  const digits = priceDigitsOf(store, getSettings(store).currency)
  const variants = [...store.variant.values()]
    .filter((variant) => variant.product === id)
    .sort((left, right) => left.position - right.position)
  const own = (variant: Variant, field: 'basePrice' | 'cost') => {
    const value = variant[field] ?? (product as Product)[field]
    if (value === null) return '–'
    return variant[field] === null ? (
      <span className="text-soft">{formatAmount(value, digits)}</span>
    ) : (
      formatAmount(value, digits)
    )
  }
  const effect = await changeEffect(loaded)
  return {
    main: (
      <>
        {effect && <ChangeEffectTables effect={effect} />}
        <SheetTable caption="Its variants" heads={['Its variants', 'SKU', 'Base price', 'Cost', 'Stock']}>
          {variants.map((variant) => (
            <tr key={variant.id}>
              <td>{variantName(product, variant) || product.name}</td>
              <td>
                <VantageLink href={recordHref('variant-records', variant.sku)} className="link-name">
                  {variant.sku}
                </VantageLink>
              </td>
              <td>{own(variant, 'basePrice')}</td>
              <td>{own(variant, 'cost')}</td>
              <td>{variant.stock ?? <span className="text-soft">not counted</span>}</td>
            </tr>
          ))}
        </SheetTable>
        <p className="pt-1 text-xs text-soft">
          Grey figures are the product’s own, which the variant takes over.
        </p>
        <p className="flex gap-5 pt-3">
          <VantageLink
            href={`/variant-records/new?would=${encodeURIComponent(JSON.stringify({ product: product.code }))}`}
            className="link-name"
          >
            Add a variant
          </VantageLink>
          <VantageLink href={recordHref('products', product.code)} className="link-name">
            Its prices for every buyer
          </VantageLink>
        </p>
      </>
    ),
    side: (
      <>
        <MentionList
          title="Rules for this product"
          mentions={mentionsOfItem(store, (term) => term.kind === 'product' && term.product === id)}
          none="None of its own."
        />
        <MentionList
          title="Rules that reach it otherwise"
          mentions={reachedOtherwise((after ?? before).prepared, variants, 'product')}
          none="None: no rule is for its categories, attributes, family or variants."
        />
      </>
    ),
    summary: effect?.summary ?? '',
  }
}

async function drawVariant(loaded: LoadedSheet): Promise<SheetEffect> {
  const { before, after, id, stored } = loaded
  const { store } = (after ?? before).prepared
  const variant = store.variant.get(id)
  const product = variant && store.product.get(variant.product)
  if (!variant || !product || !stored)
    return { main: <p className="text-soft">A SKU and its product are enough to begin with.</p>, side: null }
  const effect = await changeEffect(loaded)
  return {
    main: (
      <>
        {effect && <ChangeEffectTables effect={effect} />}
        <p className="flex gap-5">
          <VantageLink href={recordHref('products', product.code)} className="link-name">
            {product.name}: its prices for every buyer
          </VantageLink>
          <VantageLink href={recordHref('product-records', product.code)} className="link-name">
            Change {product.name} itself
          </VantageLink>
        </p>
      </>
    ),
    side: (
      <>
        <MentionList
          title="Rules for this variant"
          mentions={mentionsOfItem(store, (term) => term.kind === 'variant' && term.variant === id)}
          none="None of its own."
        />
        <MentionList
          title="Rules that reach it otherwise"
          mentions={reachedOtherwise((after ?? before).prepared, [variant], 'variant')}
          none="None: no rule is for its product, categories, attributes or family."
        />
      </>
    ),
    summary: effect?.summary ?? '',
  }
}

/** Rules for what some variants are part of; those for everything, and those that name them, left out. */
function reachedOtherwise(
  { store, index }: PreparedStore,
  variants: readonly Variant[],
  own: WhatTerm['kind'],
): readonly Mention[] {
  const items = variants.flatMap(({ id }) => {
    const number = index.numberOf.get(id)
    return number === undefined ? [] : [factsOf(store, index, number)]
  })
  return mentionsOfItem(
    store,
    (term) =>
      term.kind !== 'everything' &&
      term.kind !== own &&
      items.some((item) => matchWhat({ include: [term], exclude: [] }, item).matches),
  )
}
