import { isSold } from '../catalogue/is-sold'
import { pathToRoot } from '../catalogue/category'
import { sharedMemory } from '../maps/shared-memory'
import { findBuyerFacts } from '../buyers/buyer'
import { keptScopeMatcher } from '../engine/items/scope-matcher'
import type { PreparedStore } from '../engine/context/prepared-store'
import { type BuyerFacts, matchWho, type Who } from '../predicates/who'
import type { What } from '../predicates/what'
import type { Steps } from '../steps/steps'
import type { Change, Store } from '../store/store'
import { listByList } from './by-list'
import { aboutRecord, withCases, type Finding, type FindingKind, type Looking } from './finding'

/** Lists for nobody, and lists that offer only what they list to buyers no contract brings them to. */
export const AUDIENCE_FINDINGS: FindingKind = {
  code: 'list-reaches-nobody',
  looksAt: ['price-list', 'contract', 'account', 'group', 'passcode'],
  *find({ prepared }: Looking): Steps<readonly Finding[]> {
    yield
    const { store } = prepared
    const agreed = new Set(
      [...store.contract.values()].filter(({ state }) => state !== 'ended').flatMap(({ lists }) => lists),
    )
    const startedFrom = new Set([...prepared.lists.values()].flatMap(({ referredTo }) => [...referredTo]))
    return [...store['price-list'].values()].flatMap((list): readonly Finding[] => {
      if (list.state !== 'on' || list.status !== 'active') return []
      const cause = { kind: 'price-list', id: list.id } as const
      const reachesSome =
        agreed.has(list.id) || startedFrom.has(list.id) || reachesAnybody(prepared, list.audience)
      if (!reachesSome) {
        const off: Change = {
          kind: 'price-list',
          id: list.id,
          before: list,
          after: { ...list, state: 'off' },
        }
        return [aboutRecord('list-reaches-nobody', 'untidy', cause, {}, [off])]
      }
      const contracts = [...store.contract.values()].filter(
        ({ lists, state, assortment }) =>
          state === 'active' && lists.includes(list.id) && assortment === null,
      )
      return list.onlyListed && contracts.length > 0
        ? [
            aboutRecord('only-listed', 'wrong-for-buyers', cause, {
              contracts: contracts.map(({ code }) => code).join(', '),
            }),
          ]
        : []
    })
  },
}

function reachesAnybody({ store }: PreparedStore, who: Who): boolean {
  // A passcode, a tag or an address may be had by somebody nobody knows yet.
  if (
    who.include.some(
      ({ kind }) =>
        kind === 'passcode' ||
        kind === 'email' ||
        kind === 'everyone' ||
        kind === 'guests' ||
        kind === 'signed-in',
    )
  )
    return true
  return everyBuyer(store).some((facts) => matchWho(who, facts).matches)
}

const BUYERS = sharedMemory(
  'every-buyer',
  () =>
    new WeakMap<
      Store['account'],
      { readonly groups: Store['group']; readonly facts: readonly BuyerFacts[] }
    >(),
)

/** What rules know of every active group and account; kept as long as these. */
function everyBuyer({ group: groups, account: accounts }: Store): readonly BuyerFacts[] {
  const known = BUYERS.get(accounts)
  if (known?.groups === groups) return known.facts
  const active = <Kept extends { readonly status: string }>(records: ReadonlyMap<string, Kept>) =>
    [...records.values()].filter(({ status }) => status === 'active')
  const facts = [
    ...active(groups).map(({ id }) => ({ kind: 'group', group: id }) as const),
    ...active(accounts).map(({ id }) => ({ kind: 'account', account: id }) as const),
  ].flatMap((buyer) => findBuyerFacts(groups, accounts, buyer) ?? [])
  BUYERS.set(accounts, { groups, facts })
  return facts
}

/** Lines of price lists for nothing that is sold. */
export const LINE_FINDINGS: FindingKind = {
  code: 'line-reaches-nothing',
  looksAt: ['price-line', 'price-list', 'product', 'variant', 'category', 'extra'],
  find: ({ prepared }) => findLinesForNothing(prepared),
}

const findLinesForNothing = listByList(
  'lines-for-nothing',
  ({ store }) => [store.product, store.variant, store.category, store.extra],
  (prepared, { list, lines }) => {
    if (list.status !== 'active') return []
    const idle = lines.filter(({ scope }) => !reachesSomething(prepared, scope))
    if (idle.length === 0) return []
    return [
      withCases(
        {
          code: 'line-reaches-nothing',
          group: 'untidy',
          key: `line-reaches-nothing/price-list/${list.id}`,
          cause: { kind: 'price-list', id: list.id },
          facts: {},
        },
        idle.map((line) => ({
          variant: null,
          buyer: null,
          amounts: {},
          currency: '',
          fix: [{ kind: 'price-line', id: line.id, before: line, after: null }],
        })),
      ),
    ]
  },
)

/** Ids of categories with anything sold in them, or below them; kept as long as the catalogue. */
const SOLD_IN = sharedMemory(
  'sold-categories',
  () => new WeakMap<PreparedStore['store']['product'], ReadonlySet<string>>(),
)

function soldCategories(prepared: PreparedStore): ReadonlySet<string> {
  const known = SOLD_IN.get(prepared.store.product)
  if (known) return known
  const found = new Set<string>()
  for (const product of prepared.store.product.values())
    if (product.status === 'active')
      for (const category of product.categories)
        for (const { id } of pathToRoot(prepared.store.category, category)) found.add(id)
  SOLD_IN.set(prepared.store.product, found)
  return found
}

/** Whether a scope holds anything that is sold; one that names a single item or branch is looked up. */
function reachesSomething(prepared: PreparedStore, scope: What): boolean {
  const { store, index } = prepared
  const [only] = scope.include
  if (scope.include.length === 1 && scope.exclude.length === 0) {
    if (only?.kind === 'variant') return isSold(store, only.variant)
    if (only?.kind === 'extra') return store.extra.get(only.extra)?.status === 'active'
    if (only?.kind === 'product')
      return (index.numbersOfProduct.get(only.product) ?? []).some((number) =>
        isSold(store, index.items[number] as string),
      )
    if (only?.kind === 'everything') return index.variantCount > 0
    if (only?.kind === 'category' && only.descendants) return soldCategories(prepared).has(only.category)
  }
  if (scope.include.some(({ kind }) => kind === 'extra')) return true
  const isIn = keptScopeMatcher(prepared, scope)
  for (let number = 0; number < index.variantCount; number += 1)
    if (isIn(number) && isSold(store, index.items[number] as string)) return true
  return false
}

const RULES = ['adjustment', 'limit', 'access-rule', 'promotion'] as const

/** Rules that are on and for nothing, or nobody, there is. */
export const RULE_FINDINGS: FindingKind = {
  code: 'rule-reaches-nothing',
  looksAt: [...RULES, 'product', 'variant', 'category', 'account', 'group', 'passcode'],
  *find({ prepared }: Looking): Steps<readonly Finding[]> {
    const findings: Finding[] = []
    for (const kind of RULES)
      for (const rule of prepared.store[kind].values()) {
        yield
        if (rule.state !== 'on' || rule.status !== 'active') continue
        const isForNobody = !reachesAnybody(prepared, rule.audience)
        if (!isForNobody && reachesSomething(prepared, rule.scope)) continue
        const off = { kind, id: rule.id, before: rule, after: { ...rule, state: 'off' } } as unknown as Change
        const facts = { what: isForNobody ? 'nobody' : 'nothing' }
        findings.push(aboutRecord('rule-reaches-nothing', 'untidy', { kind, id: rule.id }, facts, [off]))
      }
    return findings
  },
}
