import 'server-only'

import { inTreeOrder, pathToRoot } from '@/core/catalogue/category'
import { soldVariants } from '@/server/engine/sold-variants'
import { changeEffect, ChangeEffectTables } from '@/sheet/effect/change-effect'
import { mentionsOfItems } from '@/sheet/effect/mentions'
import { MentionList } from '@/sheet/parts/mention-list'
import { SheetTable } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { recordHref } from '@/ui/frame/record-href'
import { VantageLink } from '@/ui/frame/vantage-link'
import { rulesByCategory } from './categories/rules-by-category'
import { ProductTable } from './product-table'
import { categoryDetails, categorySentence } from './catalogue-sentences'

export const categorySheet: SheetOfKind = {
  sentence: categorySentence,
  details: categoryDetails,
  about: (record) => String(record['code']),
  effect: drawCategory,
}

/** A category with those around it, how many variants each has, its products, and the rules for it. */
async function drawCategory(loaded: LoadedSheet): Promise<SheetEffect> {
  const { before, after, id, stored } = loaded
  const { prepared } = after ?? before
  const { store } = prepared
  const category = store.category.get(id)
  if (!category || !stored)
    return {
      main: <p className="text-soft">A name is enough to begin with; then choose its parent category.</p>,
      side: null,
    }
  const counts = new Map<string, number>()
  const items = await soldVariants(prepared)
  for (const { branches } of items)
    for (const branch of branches) counts.set(branch, (counts.get(branch) ?? 0) + 1)
  const above = new Set(pathToRoot(store.category, id).map((each) => each.id))
  const isNear = (each: { readonly id: string; readonly parent: string | null }) =>
    above.has(each.id) ||
    each.parent === id ||
    (each.parent !== null && above.has(each.parent)) ||
    each.parent === category.parent
  const effect = await changeEffect(loaded)
  const [own, inherited] = await mentionsOfItems(prepared, `category ${id}`, [
    (term) => term.kind === 'category' && term.category === id,
    (term) =>
      term.kind === 'category' && term.category !== id && term.descendants && above.has(term.category),
  ])
  const rules = await rulesByCategory(prepared)
  const ruleCount = (of: string) =>
    Object.values(rules.get(of) ?? {}).reduce((sum: number, each) => sum + each.length, 0)
  return {
    actions: (
      <VantageLink href={`/categories?at=${encodeURIComponent(category.code)}`} className="link-name">
        Move it on the tree
      </VantageLink>
    ),
    main: (
      <>
        {effect && <ChangeEffectTables effect={effect} />}
        <SheetTable caption="The categories around it" heads={['Its place in the tree', 'Variants', 'Rules']}>
          {inTreeOrder(store.category)
            .filter(({ category: each }) => isNear(each))
            .map(({ category: each, depth }) => (
              <tr key={each.id} className={each.id === id ? 'bg-chosen' : ''}>
                <td style={{ paddingLeft: `${0.25 + depth * 1.25}rem` }}>
                  {each.id === id ? (
                    <b>{each.name}</b>
                  ) : (
                    <VantageLink href={recordHref('categories', each.code)} className="hover:underline">
                      {each.name}
                    </VantageLink>
                  )}
                </td>
                <td>{counts.get(each.id) ?? 0}</td>
                <td className="text-soft">{ruleCount(each.id) || ''}</td>
              </tr>
            ))}
        </SheetTable>
        <div className="pt-5">
          <ProductTable
            title="Products in it"
            items={items.filter(({ branches }) => branches.includes(id))}
          />
        </div>
        <p className="pt-3">
          <VantageLink href={`/board?in=${encodeURIComponent(category.code)}`} className="link-name">
            Its prices on the board
          </VantageLink>
        </p>
      </>
    ),
    side: (
      <>
        <MentionList title="Rules for this category" mentions={own} none="None of its own." />
        {category.parent !== null && (
          <MentionList title="From the categories above" mentions={inherited} none="None." />
        )}
      </>
    ),
  }
}
