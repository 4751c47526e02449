import 'server-only'

import { changeEffect, ChangeEffectTables } from '@/sheet/effect/change-effect'
import { mentionsOfItems } from '@/sheet/effect/mentions'
import { MentionList } from '@/sheet/parts/mention-list'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { recordHref } from '@/ui/frame/record-href'
import { VantageLink } from '@/ui/frame/vantage-link'
import { reachesOtherwise } from './rules-reaching'
import { loadStock } from './stock/load-stock'
import { StockSection } from './stock/stock-section'
import { variantDetails, variantSentence } from './variant-sentence'

export const variantSheet: SheetOfKind = {
  sentence: variantSentence,
  details: variantDetails,
  effect: drawVariant,
}

async function drawVariant(loaded: LoadedSheet): Promise<SheetEffect> {
  const { before, after, id, stored } = loaded
  const { store } = (after ?? before).prepared
  const variant = store.variant.get(id)
  const product = variant && store.product.get(variant.product)
  if (!variant || !product || !stored)
    return { main: <p className="text-soft">A SKU and its product are enough to begin with.</p>, side: null }
  const effect = await changeEffect(loaded)
  const [own, otherwise] = await mentionsOfItems((after ?? before).prepared, `variant ${id}`, [
    (term) => term.kind === 'variant' && term.variant === id,
    reachesOtherwise((after ?? before).prepared, [variant], 'variant'),
  ])
  return {
    main: (
      <>
        {effect && <ChangeEffectTables effect={effect} />}
        <p>
          <VantageLink href={recordHref('products', product.code)} className="link-name">
            {product.name}: its variants side by side, and their prices in every list
          </VantageLink>
        </p>
        <div className="-mx-6">
          <StockSection
            view={await loadStock(before.steppe, store, product, [variant])}
            live={before.live && after === null}
          />
        </div>
      </>
    ),
    side: (
      <>
        <MentionList title="Rules for this variant" mentions={own} none="None of its own." />
        <MentionList
          title="Rules that reach it otherwise"
          mentions={otherwise}
          none="None: no rule is for its product, categories, attributes or family."
        />
      </>
    ),
    summary: effect?.summary ?? '',
  }
}
