import { merchantPage } from '@/server/session/permit'
import { CategoryTree } from '@/features/catalogue/categories/category-tree'
import { loadCategoryTree } from '@/features/catalogue/categories/load-category-tree'
import { loadMoveEffect } from '@/features/catalogue/categories/load-move-effect'
import { MoveEffectParts } from '@/features/catalogue/categories/move-effect'
import { SectionTabs } from '@/features/records/section-tabs'
import { lookFrom } from '@/server/engine/look-from'
import { parseVantage } from '@/ui/frame/vantage-url'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Categories' }

export default merchantPage(
  'prices:look',
  async ({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) => {
    const fields = new URLSearchParams(await searchParams)
    const requestContext = await lookFrom(parseVantage(fields))
    const view = await loadCategoryTree(requestContext, fields)
    const effect = view.move ? await loadMoveEffect(requestContext, view.move) : null
    return (
      <CategoryTree
        view={view}
        tabs={<SectionTabs place="Catalogue" path="categories" />}
        effect={effect && <MoveEffectParts effect={effect} />}
        lines={effect?.lines ?? 0}
      />
    )
  },
)
