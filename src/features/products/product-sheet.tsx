import 'server-only'

import { changeEffect, ChangeEffectTables } from '@/sheet/effect/change-effect'
import { mentionsOfItems } from '@/sheet/effect/mentions'
import { MentionList } from '@/sheet/parts/mention-list'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { ProductPicture } from '@/ui/format/product-picture'
import { VantageLink } from '@/ui/frame/vantage-link'
import { withVantage } from '@/ui/frame/vantage-url'
import { ListPricesSection } from './list-prices-section'
import { loadListPrices } from './load-list-prices'
import { loadProductSheet } from './load-products'
import { ProductGrid } from './product-grid'
import { productDetails, productSentence } from './product-sentence'
import { reachesOtherwise } from './rules-reaching'
import { loadStock } from './stock/load-stock'
import { StockSection } from './stock/stock-section'
import { TermsSection } from './terms-section'

export const productSheet: SheetOfKind = {
  sentence: productSentence,
  details: productDetails,
  about: (record) => String(record['code']),
  effect: drawProduct,
}

/** A product’s variants with what each sets itself, its prices in every list, and the rules that reach it. */
async function drawProduct(loaded: LoadedSheet): Promise<SheetEffect> {
  const { before, after, id, stored, view: sheet } = loaded
  const requestContext = after ?? before
  const { store } = requestContext.prepared
  const product = store.product.get(id)
  if (!product || !stored)
    return {
      main: <p className="text-soft">A name is enough to begin with; its variants and prices come next.</p>,
      side: null,
    }
  const variants = [...store.variant.values()].filter((variant) => variant.product === id)
  const effect = await changeEffect(loaded)
  const shown = await loadProductSheet(requestContext, product.code)
  const { vantage, buyerName } = before
  const [own, otherwise] = await mentionsOfItems(requestContext.prepared, `product ${id}`, [
    (term) => term.kind === 'product' && term.product === id,
    reachesOtherwise(requestContext.prepared, variants, 'product'),
  ])
  return {
    main: (
      <>
        {effect && <ChangeEffectTables effect={effect} />}
        {shown && (
          <ProductGrid
            // What is typed above changes what the variants come to.
            key={JSON.stringify(sheet.texts)}
            initial={{ ...shown, live: shown.live && after === null }}
          >
            <ListPricesSection
              view={await loadListPrices(requestContext, id)}
              live={shown.live && after === null}
            />
            <TermsSection view={shown} />
            <StockSection
              view={await loadStock(requestContext.steppe, store, product, variants)}
              live={shown.live && after === null}
            />
          </ProductGrid>
        )}
        {!shown && <p className="text-soft">It is archived: nobody is offered it, and it has no prices.</p>}
      </>
    ),
    side: (
      <>
        <ProductPicture
          name={product.picture}
          className="mb-4 size-[88px] border border-base-300 bg-plate object-contain"
        />
        <MentionList title="Rules for this product" mentions={own} none="None of its own." />
        <MentionList
          title="Rules that reach it otherwise"
          mentions={otherwise}
          none="None: no rule is for its categories, attributes, family or variants."
        />
      </>
    ),
    actions: (
      <>
        <VantageLink
          href={`/variant-records/new?would=${encodeURIComponent(JSON.stringify({ product: product.code }))}`}
          className="link-name"
        >
          Add a variant
        </VantageLink>
        <VantageLink href={`/board?of=${encodeURIComponent(product.code)}`} className="link-name">
          On the board
        </VantageLink>
        <a
          href={withVantage(`/look-as-buyer?page=/shop/product/${encodeURIComponent(product.code)}`, vantage)}
          className="link-name"
        >
          In the shop, as {buyerName}
        </a>
      </>
    ),
    hasOwnHistory: true,
    summary: effect?.summary ?? '',
  }
}
