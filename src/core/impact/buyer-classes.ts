import type { BuyerReference } from '../buyers/buyer'
import type { BuyerContext } from '../engine/context/buyer-context'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { openPricingContext } from '../engine/price/open-pricing-context'
import { currenciesTaken, type Store } from '../store/store'
import { eachInSteps, type Steps } from '../steps/steps'
import { taxWord } from './tax-word'

/** Buyers with equal rights: nobody in it pays, sees or may do anything else than the others, in either of two stores. */
export interface BuyerClass {
  /** One of them, where they stand by themselves. */
  readonly buyer: BuyerReference
  /** ISO 4217, where they pay in another currency than follows; `null` for the one that follows. */
  readonly currency: string | null
  /** Ids of the accounts in it. */
  readonly accounts: readonly string[]
}

/** Two stores that are compared, each at an instant, through a channel. */
export interface Comparison {
  readonly before: PreparedStore
  readonly after: PreparedStore
  /** Epoch milliseconds. */
  readonly at: number
  /** Where the store before is looked at another instant. */
  readonly atBefore?: number
  /** Id; `null` is the first of each store. */
  readonly channel: string | null
}

/** What holds for somebody of a class on a side; `null` where there is nobody like that. */
export function standsAt(
  { before, after, at, atBefore = at, channel }: Comparison,
  side: 'before' | 'after',
  { buyer, currency }: Pick<BuyerClass, 'buyer' | 'currency'>,
): PricingContext | null {
  const prepared = side === 'before' ? before : after
  const from: BuyerContext = {
    buyer,
    channel: channel !== null && prepared.store.channel.has(channel) ? channel : null,
    deliverTo: null,
    currency,
    passcode: null,
    at: side === 'before' ? atBefore : at,
  }
  const opened = openPricingContext(prepared, from)
  return opened.ok ? opened.value : null
}

/**
 * All buyers in their classes: guests, every group with its accounts that have no rights of their own, then accounts that
 * have; guests once more in each further currency that is taken. Archived groups and accounts are nobody. `mindsTaxes` says
 * that goods may come to be taxed otherwise: then buyers who are taxed differently are told apart.
 */
export function* buyerClasses(comparison: Comparison, mindsTaxes = true): Steps<readonly BuyerClass[]> {
  const { before, after } = comparison
  const known = new Map<string, Gathered[]>()
  const classes: Gathered[] = []
  const add = (of: Omit<BuyerClass, 'accounts'>): Gathered | null => {
    const key = bothRights(comparison, of, mindsTaxes)
    if (key === null) return null
    const gathered = { ...of, accounts: [] }
    known.set(key, [...(known.get(key) ?? []), gathered])
    classes.push(gathered)
    return gathered
  }
  add({ buyer: { kind: 'guest' }, currency: null })
  for (const group of activeIds(after.store, before.store, 'group'))
    add({ buyer: { kind: 'group', group }, currency: null })
  yield* eachInSteps(activeIds(after.store, before.store, 'account'), (account) => {
    const of = { buyer: { kind: 'account', account }, currency: null } as const
    const key = bothRights(comparison, of, mindsTaxes)
    if (key === null) return
    const groups = (after.store.account.get(account) ?? before.store.account.get(account))?.groups ?? []
    const place =
      known
        .get(key)
        ?.find(({ buyer }) =>
          buyer.kind === 'group' ? groups.includes(buyer.group) : buyer.kind === 'account',
        ) ?? add(of)
    place?.accounts.push(account)
  })
  const usual = standsAt(comparison, 'after', { buyer: { kind: 'guest' }, currency: null })?.currency
  for (const currency of currenciesTaken(after.store))
    if (currency !== usual) add({ buyer: { kind: 'guest' }, currency })
  return classes
}

interface Gathered extends BuyerClass {
  readonly accounts: string[]
}

/** Ids of the groups or accounts that are there on either side. */
function activeIds(after: Store, before: Store, kind: 'group' | 'account'): readonly string[] {
  const ids = new Set<string>()
  for (const store of [after, before])
    for (const { id, status } of store[kind].values()) if (status === 'active') ids.add(id)
  return [...ids]
}

/** The same for buyers who have equal rights on both sides; `null` where there is nobody like that on either. */
function bothRights(
  comparison: Comparison,
  of: Omit<BuyerClass, 'accounts'>,
  mindsTaxes: boolean,
): string | null {
  const [before, after] = [standsAt(comparison, 'before', of), standsAt(comparison, 'after', of)]
  if (!before && !after) return null
  const taxes = [
    before && taxWord(comparison.before, before),
    after && taxWord(comparison.after, after),
  ] as const
  return [
    of.currency,
    before && rightsWord(before),
    after && rightsWord(after),
    ...(taxes[0] === taxes[1] && !mindsTaxes ? [] : taxes),
  ].join('\n#')
}

/** The same for buyers who pay the same for everything before tax, and see and may do the same. */
function rightsWord({ key, terms, currency, currencyView }: PricingContext): string {
  return [
    currency,
    currencyView.basisRates?.key ?? '',
    key,
    terms.rules.map(({ rule, who }) => `${rule.id}:${who}`).join(),
    terms.limits.map(({ rule, who }) => `${rule.id}:${who}`).join(),
    terms.contractAssortments.map(({ contract }) => contract).join(),
    terms.passcode?.id ?? '',
  ].join('\n')
}
