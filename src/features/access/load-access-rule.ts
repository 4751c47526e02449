import 'server-only'

import type { AccessEffect, AccessRule, Rights } from '@/core/access/access'
import { inTreeOrder } from '@/core/catalogue/category'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import { findRights } from '@/core/engine/rules/find-rights'
import { refresh } from '@/core/engine/prepare'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { turnAfter } from '@/core/predicates/schedule-outlook'
import { compileSchedule } from '@/core/predicates/when'
import { applyChanges, type Change, getSettings } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import { pricingContextOf } from '@/server/engine/request-context'
import { soldInScope, type SoldVariant, soldVariants } from '@/server/engine/sold-variants'
import { accountBuyer, type EffectBuyer, buyerContextOf, usualBuyers } from '@/sheet/effect/buyers'
import type { Mention } from '@/sheet/effect/mentions'
import type { LoadedSheet } from '@/sheet/record/load-sheet'
import { rightsPhrase } from '@/ui/format/terms-phrases'
import { recordHref } from '@/ui/frame/record-href'

/** Variants of a branch that somebody sees, before and after. */
interface BranchChange {
  readonly code: string
  readonly name: string
  readonly depth: number
  readonly all: number
  readonly before: number
  readonly after: number
}

interface BuyerChange {
  readonly name: string
  readonly href: string | null
  readonly before: string
  readonly after: string
  readonly isChanged: boolean
}

export interface AccessRuleView {
  /** What stands left and right: "Without it" and "With it", or "Saved" and "Then". */
  readonly sides: readonly [string, string]
  /** Whose view the branches show: the first the rule changes anything for. */
  readonly buyer: string
  /** What the branches count. */
  readonly measure: keyof Rights
  readonly buyers: readonly BuyerChange[]
  readonly branches: readonly BranchChange[]
  readonly products: readonly {
    readonly name: string
    readonly href: string
    readonly variants: number
    readonly before: string
    readonly after: string
  }[]
  readonly reached: number
  readonly changed: number
  readonly others: readonly Mention[]
  /** A page of the shop that the rule closes, to look at. */
  readonly page: string | null
  readonly storeName: string
}

/** What is counted branch by branch: what the effect is about. */
const MEASURES = {
  show: 'see',
  'buy-or-quote': 'quote',
  'no-buying': 'buy',
  quote: 'buy',
  'no-price': 'seePrice',
  hide: 'see',
} as const satisfies Readonly<Record<AccessEffect, keyof Rights>>

const MOST_PRODUCTS = 30

/** What an access rule does: for each kind of buyer, branch by branch, and to whom a page is closed. */
export async function loadAccessRule(loaded: LoadedSheet): Promise<AccessRuleView | null> {
  const { record, id, before, after, stored } = loaded
  const current = (after ?? before).prepared
  const rule = current.store['access-rule'].get(id)
  if (!rule) return null
  const settings = getSettings(current.store)
  const turn = turnAfter(compileSchedule(rule.schedule, settings.timeZone), before.buyerContext.at)
  const at = turn.isOn || !Number.isFinite(turn.until) ? before.buyerContext.at : turn.until
  // A rule that is switched off is looked at as it would be switched on.
  const right = withRule(current, rule, { ...rule, state: 'on' })
  const isTried = after !== null && stored !== null
  const left = isTried ? before.prepared : withRule(current, rule, { ...rule, state: 'off' })
  const item = await soldInScope(right, rule.scope)
  const named = rule.audience.include.flatMap((term) =>
    term.kind === 'account' ? (accountBuyer(current.store, term.account) ?? []) : [],
  )
  const changes: {
    buyer: EffectBuyer
    sides: readonly [PricingContext, PricingContext]
    changed: number
    view: BuyerChange
  }[] = []
  for (const buyer of [...named, ...usualBuyers(current.store)]) {
    const look = { ...buyerContextOf(buyer, before, at), deliverTo: before.buyerContext.deliverTo }
    const sides = [pricingContextOf(left, look), pricingContextOf(right, look)] as const
    const was = tally(left, sides[0], item)
    const now = tally(right, sides[1], item)
    const changed = item.filter(
      ({ number }) => !isSame(findRights(left, sides[0], number), findRights(right, sides[1], number)),
    ).length
    changes.push({
      buyer,
      sides,
      changed,
      view: {
        name: buyer.name,
        href: buyer.href,
        before: was,
        after: now,
        isChanged: changed > 0,
      },
    })
  }
  const shown = changes.find(({ changed }) => changed > 0) ?? changes[0]
  if (!shown) return null
  const measure = MEASURES[rule.effect]
  return {
    sides: isTried ? ['Saved', 'Then'] : ['Without it', 'With it'],
    buyer: shown.buyer.name,
    buyers: changes.map(({ view }) => view),
    measure,
    branches: await branchesOf(left, right, shown.sides, measure),
    products: productsOf(left, right, shown.sides, item),
    reached: item.length,
    changed: shown.changed,
    others: otherRules(right, rule, item),
    page: record['effect'] === 'hide' ? (item[0]?.product.code ?? null) : null,
    storeName: settings.name,
  }
}

function withRule(prepared: PreparedStore, before: AccessRule, after: AccessRule): PreparedStore {
  if (before.state === after.state) return prepared
  const change: Change = { kind: 'access-rule', id: before.id, before, after }
  return refresh(prepared, applyChanges(prepared.store, [change]), [change])
}

function isSame(left: Rights, right: Rights): boolean {
  return (
    left.see === right.see &&
    left.seePrice === right.seePrice &&
    left.buy === right.buy &&
    left.quote === right.quote
  )
}

/** What somebody may do with all that is reached, or the most of it. */
function tally(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  items: readonly SoldVariant[],
): string {
  const counts = new Map<string, number>()
  for (const { number } of items) {
    const words = rightsPhrase(findRights(prepared, pricingContext, number))
    counts.set(words, (counts.get(words) ?? 0) + 1)
  }
  const [most] = [...counts].sort((left, right) => right[1] - left[1])
  if (!most) return '–'
  return counts.size === 1 ? most[0] : `${most[0]}, ${most[1]} of ${items.length}`
}

async function branchesOf(
  left: PreparedStore,
  right: PreparedStore,
  [was, now]: readonly [PricingContext, PricingContext],
  measure: keyof Rights,
): Promise<readonly BranchChange[]> {
  const counts = new Map<string, { all: number; before: number; after: number; isMoved: boolean }>()
  const slices = new Slices()
  const whole = { all: 0, before: 0, after: 0, isMoved: false }
  for (const { number, branches } of await soldVariants(right)) {
    if (slices.isDue()) await slices.rest()
    const before = findRights(left, was, number)
    const after = findRights(right, now, number)
    const isMoved = !isSame(before, after)
    for (const count of [whole, ...branches.map((branch) => entry(counts, branch))]) {
      count.all += 1
      count.before += Number(before[measure])
      count.after += Number(after[measure])
      count.isMoved ||= isMoved
    }
  }
  const rows = inTreeOrder(right.store.category).flatMap(({ category: { id, code, name }, depth }) => {
    const count = counts.get(id)
    return count?.isMoved
      ? [{ code, name, depth, all: count.all, before: count.before, after: count.after }]
      : []
  })
  return [...rows, { code: '', name: 'Whole shop', depth: 0, ...whole }]
}

function entry(
  counts: Map<string, { all: number; before: number; after: number; isMoved: boolean }>,
  id: string,
) {
  const known = counts.get(id)
  if (known) return known
  const made = { all: 0, before: 0, after: 0, isMoved: false }
  counts.set(id, made)
  return made
}

function productsOf(
  left: PreparedStore,
  right: PreparedStore,
  [was, now]: readonly [PricingContext, PricingContext],
  items: readonly SoldVariant[],
): AccessRuleView['products'] {
  const byProduct = new Map<string, SoldVariant[]>()
  for (const item of items) {
    const own = byProduct.get(item.product.id)
    if (own) own.push(item)
    else byProduct.set(item.product.id, [item])
  }
  return [...byProduct.values()].slice(0, MOST_PRODUCTS).map((own) => {
    const { product } = own[0] as SoldVariant
    return {
      name: product.name,
      href: recordHref('products', product.code),
      variants: own.length,
      before: tally(left, was, own),
      after: tally(right, now, own),
    }
  })
}

/** Other rules that reach some of the same items. */
function otherRules(
  prepared: PreparedStore,
  rule: AccessRule,
  items: readonly SoldVariant[],
): AccessRuleView['others'] {
  return [...prepared.store['access-rule'].values()].flatMap((other) => {
    if (other.id === rule.id || other.status !== 'active' || other.state !== 'on') return []
    const isIn = scopeMatcher(prepared, other.scope)
    const met = items.filter(({ number }) => isIn(number)).length
    return met === 0
      ? []
      : [
          {
            name: other.name,
            href: recordHref('access-rules', other.code),
            about: `${met} of the same variants`,
          },
        ]
  })
}
