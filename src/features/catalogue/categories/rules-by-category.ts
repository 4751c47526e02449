import 'server-only'

import type { AssortmentTerm } from '@/core/access/assortment'
import type { WhatTerm } from '@/core/predicates/what'
import type { Store } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import { recordHref } from '@/ui/frame/record-href'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { Remembered } from '@/server/engine/remembered'
import type { BranchRule, RuleColumn } from './category-tree-view'

export type BranchRules = Readonly<Record<RuleColumn, readonly BranchRule[]>>

const KNOWN = new Remembered<ReadonlyMap<string, BranchRules>>('rules-by-category')

/** The rules that name a category, by its id. */
export function rulesByCategory(prepared: PreparedStore): Promise<ReadonlyMap<string, BranchRules>> {
  return KNOWN.of({ prepared }, '', () => findRules(prepared.store))
}

async function findRules(store: Store): Promise<ReadonlyMap<string, BranchRules>> {
  const rules = new Map<string, Record<RuleColumn, BranchRule[]>>()
  const seen = new Set<string>()
  const add = (category: string, column: RuleColumn, rule: BranchRule) => {
    const known = rules.get(category) ?? { lists: [], limits: [], access: [], adjustments: [] }
    rules.set(category, known)
    // A list may have several lines for one branch.
    const key = `${category} ${column} ${rule.isOut} ${rule.href}`
    if (!seen.has(key)) known[column].push(rule)
    seen.add(key)
  }
  const addScope = (scope: Scope, column: RuleColumn, rule: Omit<BranchRule, 'isOut'>) => {
    for (const [terms, isOut] of [
      [scope.include, false],
      [scope.exclude, true],
    ] as const)
      for (const term of terms) if (term.kind === 'category') add(term.category, column, { ...rule, isOut })
  }
  const slices = new Slices()
  for (const line of store['price-line'].values()) {
    if (slices.isDue()) await slices.rest()
    const list = namesCategory(line.scope) ? store['price-list'].get(line.list) : undefined
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

function namesCategory({ include, exclude }: Scope): boolean {
  return include.some(isCategory) || exclude.some(isCategory)
}

function isCategory({ kind }: WhatTerm | AssortmentTerm): boolean {
  return kind === 'category'
}
