import {
  type AccessEffect,
  type AccessRule,
  ALL_RIGHTS,
  type Gate,
  isStricter,
  type Landing,
  type Rights,
  rightsOf,
} from '../../access/access'
import { type AssortmentTerm, matchAssortment } from '../../access/assortment'
import { type Category, distancesUp } from '../../catalogue/category'
import { type ItemFacts, matchWhat, type WhatTerm } from '../../predicates/what'
import { factsOf } from '../items/catalogue-index'
import type { HeldRule } from '../context/pricing-context-terms'
import { findOffer } from './offer'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'

/** What keeps a buyer from something they else could do. */
export type AccessReason =
  | { readonly code: 'archived' }
  | { readonly code: 'gate'; readonly gate: Gate; readonly channel: string }
  /** A passcode that shows everything and lets nobody buy. */
  | { readonly code: 'review'; readonly passcode: string }
  | {
      readonly code: 'assortment'
      readonly of: { readonly kind: 'channel' | 'contract'; readonly id: string }
      readonly by: AssortmentTerm | null
    }
  /** Ids of the lists that offer only what they list. */
  | { readonly code: 'not-offered'; readonly lists: readonly string[] }
  | { readonly code: 'rule'; readonly rule: string; readonly scope: WhatTerm }

export interface Access extends Rights {
  readonly because: AccessReason | null
  /** Where the direct link to a hidden page leads, and what it says there. */
  readonly landing: Landing
  readonly message: string
}

/** Effects that keep nobody from anything. */
const ALLOWS_ALL: ReadonlySet<AccessEffect> = new Set(['show', 'buy-or-quote'])

const NOTHING: Rights = { see: false, seePrice: false, buy: false, quote: false }

/**
 * What one buyer may do with one item, by its number; who has its facts at hand passes them on. An assortment comes
 * first: nothing outside it is shown.
 */
export function findRights(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  facts: ItemFacts | null = null,
): Access {
  const { store, index } = prepared
  const { terms } = pricingContext
  const variant = store.variant.get(index.items[number] ?? '')
  const product = variant && store.product.get(variant.product)
  if (variant?.status !== 'active' || product?.status !== 'active') return closed({ code: 'archived' })
  if (terms.passcode?.isReview)
    return grant(
      { ...ALL_RIGHTS, buy: false },
      { code: 'review', passcode: terms.passcode.id },
      'message',
      '',
    )
  const gate = findGate(pricingContext)
  if (gate && !gate.rights.see) return closed(gate.because, 'sign-in')
  const left = outsideAssortment(prepared, pricingContext, {
    variant: variant.id,
    product: product.id,
    filedUnder: product.categories,
  })
  if (left) return closed(left)
  const offer = findOffer(pricingContext, number)
  if (!offer.offered) return closed({ code: 'not-offered', lists: offer.by.map(({ list }) => list.id) })
  const won =
    terms.rules.length === 0
      ? null
      : winningRule(store.category, terms.rules, facts ?? factsOf(store, index, number), product.categories)
  const byRule = won ? rightsOf(won.rule.effect) : ALL_RIGHTS
  const ruleReason: AccessReason | null =
    won && !ALLOWS_ALL.has(won.rule.effect) ? { code: 'rule', rule: won.rule.id, scope: won.scope } : null
  const { landing, message } = won?.rule ?? NO_LANDING
  const rights = gate ? both(byRule, gate.rights) : byRule
  const isByGate = gate !== null && (rights.seePrice !== byRule.seePrice || rights.buy !== byRule.buy)
  return grant(rights, isByGate ? gate.because : ruleReason, landing, message)
}

/** Field by field: asked for every line of a cart, and records spread together are slow to make. */
function grant(
  { see, seePrice, buy, quote }: Rights,
  because: AccessReason | null,
  landing: Landing,
  message: string,
): Access {
  return { see, seePrice, buy, quote, because, landing, message }
}

const NO_LANDING = { landing: 'message', message: '' } as const

function closed(because: AccessReason, landing: Landing = 'message'): Access {
  return grant(NOTHING, because, landing, '')
}

function both(left: Rights, right: Rights): Rights {
  return {
    see: left.see && right.see,
    seePrice: left.seePrice && right.seePrice,
    buy: left.buy && right.buy,
    quote: left.quote && right.see,
  }
}

/**
 * Whether nothing keeps a buyer from anything that is sold at all, so that whoever asks for many items need not ask for
 * each.
 *
 * Holds  `findRights` is then all rights for every active variant of an active product.
 */
export function isUnrestricted(pricingContext: PricingContext): boolean {
  const { rules, passcode, channelAssortment, contractAssortments } = pricingContext.terms
  return (
    rules.length === 0 &&
    !passcode?.isReview &&
    !channelAssortment &&
    contractAssortments.length === 0 &&
    pricingContext.exclusiveLists.length === 0 &&
    findGate(pricingContext) === null
  )
}

/** What the gate of the channel leaves a buyer; `null` where it stands open to them. */
export function findGate({
  buyer,
  terms,
}: PricingContext): { readonly rights: Rights; readonly because: AccessReason } | null {
  const { channel, passcode } = terms
  if (!channel) return null
  const { gate } = channel
  const isIn = gate === 'passcode' ? passcode !== null : buyer.signedIn
  if (gate === 'open' || isIn) return null
  const because: AccessReason = { code: 'gate', gate, channel: channel.id }
  if (gate === 'sign-in-prices') return { rights: rightsOf('no-price'), because }
  return { rights: gate === 'sign-in-buy' ? rightsOf('no-buying') : NOTHING, because }
}

function outsideAssortment(
  { store }: PreparedStore,
  { terms }: PricingContext,
  item: Parameters<typeof matchAssortment>[2],
): AccessReason | null {
  const { channel, channelAssortment, contractAssortments } = terms
  if (channel && channelAssortment) {
    const match = matchAssortment(channelAssortment, store.category, item)
    if (!match.holds) return { code: 'assortment', of: { kind: 'channel', id: channel.id }, by: match.by }
  }
  let outside: AccessReason | null = null
  for (const { contract, compiled } of contractAssortments) {
    const match = matchAssortment(compiled, store.category, item)
    if (match.holds) return null
    outside ??= { code: 'assortment', of: { kind: 'contract', id: contract }, by: match.by }
  }
  return outside
}

interface WonRule {
  readonly rule: AccessRule
  readonly scope: WhatTerm
}

interface Matched {
  readonly held: HeldRule<AccessRule>
  readonly what: number
  readonly scope: WhatTerm
}

/**
 * The more specific What wins, then the more specific Who, then rank; ties: the more restrictive. A product that is
 * reached through several categories takes the most restrictive of the rules that win on its paths, unless one says more
 * than a category does.
 */
export function winningRule(
  categories: ReadonlyMap<string, Category>,
  rules: readonly HeldRule<AccessRule>[],
  facts: ItemFacts,
  filedUnder: readonly string[],
): WonRule | null {
  const matched: Matched[] = []
  for (const held of rules) {
    const match = matchWhat(held.rule.scope, facts)
    if (match.matches) matched.push({ held, what: match.specificity, scope: match.by })
  }
  const best = strongest(matched)
  if (!best) return null
  const won =
    best.scope.kind === 'category' && filedUnder.length > 1
      ? (strictestOfPaths(categories, matched, facts, filedUnder) ?? best)
      : best
  return { rule: won.held.rule, scope: won.scope }
}

function strongest(matched: readonly Matched[]): Matched | null {
  let best: Matched | null = null
  for (const next of matched) if (best === null || isStronger(next, best)) best = next
  return best
}

/** Of the rules that win on each way up the tree the most restrictive. */
function strictestOfPaths(
  categories: ReadonlyMap<string, Category>,
  matched: readonly Matched[],
  facts: ItemFacts,
  filedUnder: readonly string[],
): Matched | null {
  let strictest: Matched | null = null
  for (const category of filedUnder) {
    const onPath = { ...facts, categories: distancesUp(categories, [category]) }
    const won = strongest(
      matched.flatMap(({ held }): readonly Matched[] => {
        // What a scope leaves out it leaves out on every path.
        const match = matchWhat({ include: held.rule.scope.include, exclude: [] }, onPath)
        return match.matches && match.by.kind === 'category'
          ? [{ held, what: match.specificity, scope: match.by }]
          : []
      }),
    )
    if (won && (strictest === null || isStricter(won.held.rule.effect, strictest.held.rule.effect)))
      strictest = won
  }
  return strictest
}

function isStronger(next: Matched, best: Matched): boolean {
  const difference =
    next.what - best.what || next.held.who - best.held.who || best.held.rule.rank - next.held.rule.rank
  return difference === 0 ? isStricter(next.held.rule.effect, best.held.rule.effect) : difference > 0
}
