import 'server-only'

import type { Product } from '@/core/catalogue/product'
import type { Store } from '@/core/store/store'
import { revisionOf } from '@/server/views/view'
import { Slices } from '@/server/doors/slices'
import type { RequestContext } from '@/server/engine/request-context'
import { soldVariants } from '@/server/engine/sold-variants'
import { recordHref } from '@/ui/frame/record-href'
import type { BranchRule, CategoryTreeView, TreeCategory } from './category-tree-view'
import { moveFromUrl } from './move-in-url'
import { type BranchRules, rulesByCategory } from './rules-by-category'

/** Every category with what is in it and which rules name it. */
export async function loadCategoryTree(
  { prepared, live, view }: RequestContext,
  fields: { get(name: string): string | null },
): Promise<CategoryTreeView> {
  const { store } = prepared
  const variants = new Map<string, number>()
  const slices = new Slices()
  for (const { branches } of await soldVariants(prepared)) {
    if (slices.isDue()) await slices.rest()
    for (const branch of branches) variants.set(branch, (variants.get(branch) ?? 0) + 1)
  }
  const products = [...store.product.values()].filter(({ status }) => status === 'active')
  const filed = filedIn(products)
  const rules = await rulesByCategory(prepared)
  const categories = [...store.category.values()].map((category): TreeCategory => {
    const own = filed.get(category.id) ?? []
    return {
      id: category.id,
      parent: category.parent,
      position: category.position,
      code: category.code,
      name: category.name,
      archived: category.status === 'archived',
      revision: revisionOf(view, 'category', category.id),
      variants: variants.get(category.id) ?? 0,
      filed: own.length,
      rules: someOfEach(rules.get(category.id)),
      taxClass: sharedTaxClass(store, own),
    }
  })
  const inTwo = products.filter((product) => product.categories.length > 1)
  return {
    categories,
    products: products.length,
    inTwo: inTwo.map(({ name, code }) => ({ name, href: recordHref('products', code) })),
    at: categories.find(({ code }) => code === fields.get('at'))?.id ?? null,
    move: live ? moveFromUrl(fields, categories) : null,
    live,
    asOf: view.asOf,
  }
}

/** Names that fit into a column beside each other. */
const MOST_NAMES = 2

function someOfEach(rules: BranchRules | undefined): TreeCategory['rules'] {
  const some = (all: readonly BranchRule[] = []) => {
    // "and one more" takes the room of a name.
    const shown = all.slice(0, all.length > MOST_NAMES ? MOST_NAMES - 1 : MOST_NAMES)
    return { shown, more: all.length - shown.length }
  }
  return {
    lists: some(rules?.lists),
    limits: some(rules?.limits),
    access: some(rules?.access),
    adjustments: some(rules?.adjustments),
  }
}

function filedIn(products: readonly Product[]): ReadonlyMap<string, readonly Product[]> {
  const filed = new Map<string, Product[]>()
  for (const product of products)
    for (const id of product.categories) {
      const known = filed.get(id)
      if (known) known.push(product)
      else filed.set(id, [product])
    }
  return filed
}

function sharedTaxClass(store: Store, products: readonly Product[]): string {
  const [first] = products
  if (!first || first.taxClass === null) return ''
  return products.every(({ taxClass }) => taxClass === first.taxClass)
    ? (store['tax-class'].get(first.taxClass)?.name ?? '')
    : ''
}
