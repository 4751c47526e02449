import 'server-only'

import type { AssortmentTerm } from '@/core/access/assortment'
import type { Product } from '@/core/catalogue/product'
import type { WhatTerm } from '@/core/predicates/what'
import type { Store } from '@/core/store/store'
import { revisionOf } from '@/server/changes/history'
import { Slices } from '@/server/doors/slices'
import type { RequestContext } from '@/server/engine/look-from'
import { soldVariants } from '@/server/engine/sold-variants'
import { recordHref } from '@/ui/frame/record-href'
import type { BranchRule, CategoryTreeView, RuleColumn, TreeCategory } from './category-tree-view'
import { moveFromUrl } from './move-in-url'

/** Every category with what is in it and which rules name it. */
export async function loadCategoryTree(
  { prepared, live, steppe }: RequestContext,
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
  const rules = rulesByCategory(store)
  const categories = [...store.category.values()].map((category): TreeCategory => {
    const own = filed.get(category.id) ?? []
    return {
      id: category.id,
      parent: category.parent,
      position: category.position,
      code: category.code,
      name: category.name,
      archived: category.status === 'archived',
      revision: revisionOf(steppe, 'category', category.id),
      variants: variants.get(category.id) ?? 0,
      filed: own.length,
      rules: rules.get(category.id) ?? NO_RULES,
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
    asOf: steppe.lastChangeSet,
  }
}

const NO_RULES: TreeCategory['rules'] = { lists: [], limits: [], access: [], adjustments: [] }

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

/** The rules that name a category, by its id. */
function rulesByCategory(store: Store): ReadonlyMap<string, TreeCategory['rules']> {
  const rules = new Map<string, Record<RuleColumn, BranchRule[]>>()
  const add = (category: string, column: RuleColumn, rule: BranchRule) => {
    const known = rules.get(category) ?? { lists: [], limits: [], access: [], adjustments: [] }
    rules.set(category, known)
    // A list may have several lines for one branch.
    if (!known[column].some(({ href, isOut }) => href === rule.href && isOut === rule.isOut))
      known[column].push(rule)
  }
  const addScope = (scope: Scope, column: RuleColumn, rule: Omit<BranchRule, 'isOut'>) => {
    for (const [terms, isOut] of [
      [scope.include, false],
      [scope.exclude, true],
    ] as const)
      for (const term of terms) if (term.kind === 'category') add(term.category, column, { ...rule, isOut })
  }
  for (const line of store['price-line'].values()) {
    const list = store['price-list'].get(line.list)
    if (list) addScope(line.scope, 'lists', { name: list.name, href: recordHref('price-lists', list.code) })
  }
  for (const list of store['price-list'].values())
    addScope(list.scope, 'lists', { name: list.name, href: recordHref('price-lists', list.code) })
  for (const [kind, column, path] of [
    ['limit', 'limits', 'limits'],
    ['access-rule', 'access', 'access-rules'],
    ['adjustment', 'adjustments', 'adjustments'],
  ] as const)
    for (const { name, code, scope } of store[kind].values())
      addScope(scope, column, { name, href: recordHref(path, code) })
  for (const kind of ['channel', 'contract'] as const)
    for (const { name, code, assortment } of store[kind].values())
      if (assortment)
        addScope(assortment, 'access', {
          name: kind === 'contract' ? code : name,
          href: `/assortments?${new URLSearchParams({ of: kind, code })}`,
        })
  return rules
}

interface Scope {
  readonly include: readonly (WhatTerm | AssortmentTerm)[]
  readonly exclude: readonly (WhatTerm | AssortmentTerm)[]
}
