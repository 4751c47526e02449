import 'server-only'

import { type What, type WhatTerm, whatTermKey } from '@/core/predicates/what'
import { soldInScope } from '@/server/engine/sold-variants'
import { mentionsOfItems } from '@/sheet/effect/mentions'
import { MentionList } from '@/sheet/parts/mention-list'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { ProductTable } from './product-table'
import { categoryDetails, extraDetails, extraSentence, familySentence } from './catalogue-sentences'

export const familySheet: SheetOfKind = {
  sentence: familySentence,
  details: categoryDetails,
  effect: async (loaded) => {
    const family: WhatTerm = { kind: 'family', family: loaded.id }
    return drawItems(loaded, 'Priced together', { include: [family], exclude: [] }, family)
  },
}

export const extraSheet: SheetOfKind = {
  sentence: extraSentence,
  details: extraDetails,
  effect: async (loaded) =>
    drawItems(loaded, 'Goes with', loaded.record['scope'] as What, { kind: 'extra', extra: loaded.id }),
}

/** The products something reaches, and the price lists that name it. */
async function drawItems(
  { before, after, stored }: LoadedSheet,
  title: string,
  scope: What,
  itself: WhatTerm,
): Promise<SheetEffect> {
  const { prepared } = after ?? before
  const items = await soldInScope(prepared, scope)
  const key = whatTermKey(itself)
  const [mentions] = await mentionsOfItems(prepared, key, [
    (term) => term.kind === itself.kind && whatTermKey(term) === key,
  ])
  return {
    main: <ProductTable title={title} items={items} />,
    side: stored && (
      <MentionList
        title="Prices in price lists"
        mentions={mentions}
        none="None yet. A line of a price list can be for it."
      />
    ),
  }
}
