import 'server-only'

import { factsOf } from '@/core/engine/catalogue-index'
import { type What, matchWhat } from '@/core/predicates/what'
import { soldVariants } from '@/server/engine/sold-variants'
import { mentionsOfItem } from '@/sheet/effect/mentions'
import { MentionList } from '@/sheet/parts/mention-list'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { ProductTable, type SoldItem } from './product-table'
import { categoryDetails, extraDetails, extraSentence, familySentence } from './catalogue-sentences'

export const familySheet: SheetOfKind = {
  sentence: familySentence,
  details: categoryDetails,
  effect: async (loaded) =>
    drawItems(
      loaded,
      'Priced together',
      (item) => (item.variant.family ?? item.product.family) === loaded.id,
      (term) => term.kind === 'family' && term.family === loaded.id,
    ),
}

export const extraSheet: SheetOfKind = {
  sentence: extraSentence,
  details: extraDetails,
  effect: async (loaded) => {
    const { prepared } = loaded.after ?? loaded.before
    const scope = loaded.record['scope'] as What
    return drawItems(
      loaded,
      'Goes with',
      ({ number }) => matchWhat(scope, factsOf(prepared.store, prepared.index, number)).matches,
      (term) => term.kind === 'extra' && term.extra === loaded.id,
    )
  },
}

/** The products something reaches, and the price lines for it. */
async function drawItems(
  { before, after, stored }: LoadedSheet,
  title: string,
  isIn: (item: SoldItem) => boolean,
  isIt: Parameters<typeof mentionsOfItem>[1],
): Promise<SheetEffect> {
  const { prepared } = after ?? before
  const items = (await soldVariants(prepared)).filter(isIn)
  return {
    main: <ProductTable title={title} items={items} />,
    side: stored && (
      <MentionList
        title="Prices in price lists"
        mentions={mentionsOfItem(prepared.store, isIt)}
        none="None yet. A line of a price list can be for it."
      />
    ),
  }
}
