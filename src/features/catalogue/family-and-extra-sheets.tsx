import 'server-only'

import { factsOf } from '@/core/engine/catalogue-index'
import { type What, matchWhat } from '@/core/predicates/what'
import { soldVariants } from '@/server/engine/sold-variants'
import { mentionsOfItem } from '@/sheet/effect/mentions'
import { MentionList } from '@/sheet/parts/mention-list'
import { SheetTable } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { recordHref } from '@/ui/frame/record-href'
import { VantageLink } from '@/ui/frame/vantage-link'
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

type Item = Awaited<ReturnType<typeof soldVariants>>[number]

const MOST_SHOWN = 40

/** The products something reaches, and what names it. */
async function drawItems(
  { before, after, stored }: LoadedSheet,
  title: string,
  isIn: (item: Item) => boolean,
  isIt: Parameters<typeof mentionsOfItem>[1],
): Promise<SheetEffect> {
  const { prepared } = after ?? before
  const items = (await soldVariants(prepared)).filter(isIn)
  const products = new Map<string, { readonly item: Item; count: number }>()
  for (const item of items) {
    const known = products.get(item.product.id)
    if (known) known.count += 1
    else products.set(item.product.id, { item, count: 1 })
  }
  return {
    main: (
      <>
        <SheetTable
          caption={title}
          heads={[`${title}: ${items.length} variants of ${products.size} products`, 'Variants']}
        >
          {[...products.values()].slice(0, MOST_SHOWN).map(({ item, count }) => (
            <tr key={item.product.id}>
              <td>
                <VantageLink href={recordHref('products', item.product.code)} className="hover:underline">
                  {item.product.name}
                </VantageLink>
              </td>
              <td>{count}</td>
            </tr>
          ))}
        </SheetTable>
        {products.size > MOST_SHOWN && (
          <p className="pt-1 text-soft">and {products.size - MOST_SHOWN} more</p>
        )}
      </>
    ),
    side: stored && (
      <MentionList
        title="Lines that name it"
        mentions={mentionsOfItem(prepared.store, isIt)}
        none="None: a price list can price it by name."
      />
    ),
  }
}
