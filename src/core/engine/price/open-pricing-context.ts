import { type BuyerReference, buyerKey, findBuyerFacts } from '../../buyers/buyer'
import { findDefaultChannel, type Place, placeFacts, type Region, regionsOf } from '../../places/place'
import type { Adjustment } from '../../price/adjustment'
import { compareContracts, type Contract, isPartyTo } from '../../price/contract'
import { matchRule } from '../../rules/match-rule'
import { compareRules } from '../../rules/rule'
import { getSettings, type Store } from '../../store/store'
import { findBasisRates } from '../amounts/basis'
import { buildLadder } from '../context/build-ladder'
import { Clock } from '../context/clock'
import { homePlace } from '../rules/find-tax'
import { findPasscode, findTerms, taxPlaceOf } from '../rules/find-terms'
import { makeCurrencyView } from '../context/currency-view'
import { reachAfter } from '../amounts/naming-index'
import { limitingLists } from '../rules/offer'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'
import type { QuestionError, BuyerContext } from '../context/buyer-context'

type Opened =
  | { readonly ok: true; readonly value: PricingContext }
  | { readonly ok: false; readonly error: QuestionError }

/**
 * Resolves who asks, where and when; kept until the store changes.
 *
 * Errors  names the buyer, channel or currency that does not exist.
 */
export function openPricingContext(prepared: PreparedStore, from: BuyerContext): Opened {
  const key = buyerContextKey(from)
  const known = prepared.pricingContexts.get(key)
  const standing =
    known?.filter(({ validity }) => from.at >= validity.since && from.at < validity.until) ?? []
  const found = standing.find(({ lists }) => lists === prepared.lists)
  if (found) return { ok: true, value: found }
  const latest = standing.at(-1)
  if (known && latest) {
    // Pricing contexts outlive edits of lines: what was compiled anew since is put in when somebody asks again. What is live
    // and a draft of it are asked in turn, so that more than the latest is kept.
    const value = withLists(prepared, latest)
    const oldest = standing[0] as PricingContext
    if (standing.length >= MOST_STATES) known.splice(known.indexOf(oldest), 1)
    known.push(value)
    return { ok: true, value }
  }
  const opened = resolvePricingContext(prepared, from)
  if (!opened.ok) return opened
  if (known) {
    if (known.length >= MOST_INSTANTS) known.shift()
    known.push(opened.value)
  } else {
    if (prepared.pricingContexts.size >= MOST_CONTEXTS) prepared.pricingContexts.clear()
    prepared.pricingContexts.set(key, [opened.value])
  }
  return opened
}

/**
 * The same for this very instant: a kept pricing context says what holds, and not how old a rate is by now or what a
 * list nobody is asked for would have said.
 *
 * Errors  as `openPricingContext`.
 */
export function openPricingContextExactly(prepared: PreparedStore, from: BuyerContext): Opened {
  const opened = openPricingContext(prepared, from)
  return opened.ok && opened.value.at !== from.at ? resolvePricingContext(prepared, from) : opened
}

const MOST_INSTANTS = 8
/** States of the store a standing is kept for at once: what is live, a draft, and what either was made from. */
const MOST_STATES = 3
const MOST_CONTEXTS = 5000

function buyerContextKey({ buyer, channel, deliverTo, currency, passcode }: BuyerContext): string {
  const place = deliverTo
    ? `${deliverTo.country}\t${deliverTo.state}\t${deliverTo.postcode}\t${deliverTo.city}`
    : ''
  return `${buyerKey(buyer)}\n${channel ?? ''}\n${place}\n${currency ?? ''}\n${passcode ?? ''}`
}

function resolvePricingContext(prepared: PreparedStore, from: BuyerContext): Opened {
  const { store } = prepared
  const settings = getSettings(store)
  const channel = from.channel === null ? findDefaultChannel(store.channel) : store.channel.get(from.channel)
  if (channel === undefined)
    return { ok: false, error: { code: 'unknown-channel', channel: from.channel ?? '' } }
  if (from.currency !== null && !isKnownCurrency(store, from.currency))
    return { ok: false, error: { code: 'unknown-currency', currency: from.currency } }

  const deliverTo = from.deliverTo ?? homeOf(store, from.buyer)
  const regions = regionsOf(store.region, deliverTo)
  const place = placeFacts(channel, regions)
  const { at } = from
  const clock = new Clock(at)
  const passcode = findPasscode(prepared, from.passcode, channel, clock)
  const buyer = findBuyerFacts(store.group, store.account, from.buyer, passcode?.id)
  if (!buyer) return { ok: false, error: { code: 'unknown-buyer', buyer: from.buyer } }
  const rates = clock.rates(store)

  const contracts = [...prepared.contracts.values()]
    .filter(({ contract, period }) => isPartyTo(contract, buyer) && clock.stands(contract, period))
    .map(({ contract }) => contract)
    .sort(compareContracts)
  const region = regions[0] ?? null
  const [currency, currencyFrom] = chooseCurrency(store, from, contracts, region)

  const circumstances = { buyer, place, when: clock.when }
  const adjustments = prepared.adjustments
    .filter(({ rule, schedule }) => matchRule(rule, schedule, circumstances).holds)
    .map(({ rule }) => rule)
    .sort(compareRules)
  const onBase = adjustments.filter(({ target }) => target === 'base')
  const shown = adjustments.filter(({ target }) => target === 'shown')

  const rounding =
    region && region.currency === currency && region.rounding
      ? region.rounding
      : (store.currency.get(currency)?.rounding ?? null)
  const account = from.buyer.kind === 'account' ? (store.account.get(from.buyer.account) ?? null) : null
  const taxPlace = taxPlaceOf(prepared, account, deliverTo)
  const basisRates = findBasisRates(
    prepared,
    settings.grossElsewhere === 'keep-net' ? homePlace(settings.country) : taxPlace,
    at,
  )
  const lensWith = (some: readonly Adjustment[]) =>
    makeCurrencyView({ store, currency, rounding, adjustments: some, at, rates, basisRates })
  const currencyView = lensWith(onBase)
  const protectedCurrencyView = onBase.length === 0 ? currencyView : lensWith([])
  const ladder = buildLadder(prepared, {
    buyer,
    place,
    contracts,
    currency,
    clock,
    currencyView,
    protectedCurrencyView,
  })

  const policy = contracts.find((contract) => contract.policy !== null)?.policy ?? settings.policy
  const publicPricingContext =
    settings.neverAbovePublic && from.buyer.kind !== 'guest'
      ? openPricingContext(prepared, {
          buyer: { kind: 'guest' },
          channel: channel?.id ?? null,
          deliverTo,
          currency,
          passcode: null,
          at,
        })
      : null
  if (publicPricingContext?.ok) clock.narrow(publicPricingContext.value.validity)
  const terms = findTerms(prepared, {
    buyer,
    place,
    channel,
    account,
    passcode,
    deliverTo,
    taxPlace,
    contracts,
    clock,
  })
  const key = [
    currencyView.key,
    policy,
    settings.neverAbovePublic ? `${channel?.id}/${regions.map(({ id }) => id).join()}` : '',
    shown.map(({ id }) => id).join(),
    ...ladder.map((step) =>
      step
        .map((entry) => `${entry.compiled.list.id}${entry.currencyView === currencyView ? '' : '!'}`)
        .join(),
    ),
  ].join('|')
  return {
    ok: true,
    value: {
      buyer,
      place,
      deliverTo,
      region,
      currency,
      currencyFrom,
      digits: currencyView.digits,
      at,
      validity: clock.validity,
      contracts,
      ladder,
      exclusiveLists: limitingLists(ladder),
      lists: prepared.lists,
      policy,
      terms,
      shown,
      currencyView,
      publicPricingContext: publicPricingContext?.ok ? publicPricingContext.value : null,
      reach: { current: null },
      key,
    },
  }
}

function isKnownCurrency(store: Store, code: string): boolean {
  return getSettings(store).currency === code || store.currency.get(code)?.status === 'active'
}

/** Where a buyer has things brought to when nobody says where. */
function homeOf(store: Store, buyer: BuyerReference): Place {
  const account = buyer.kind === 'account' ? store.account.get(buyer.account) : undefined
  const country = account?.country ?? getSettings(store).country
  return {
    country,
    state: account?.state ?? '',
    postcode: account?.postcode ?? '',
    city: account?.city ?? '',
  }
}

function chooseCurrency(
  store: Store,
  from: BuyerContext,
  contracts: readonly Contract[],
  region: Region | null,
): readonly [string, PricingContext['currencyFrom']] {
  if (from.currency !== null) return [from.currency, 'asked']
  const account = from.buyer.kind === 'account' ? store.account.get(from.buyer.account) : undefined
  const candidates = [
    [contracts.find(({ currency }) => currency !== null)?.currency ?? null, 'contract'],
    [account?.currency ?? null, 'account'],
    [region?.currency ?? null, 'region'],
  ] as const
  for (const [code, why] of candidates) {
    if (code !== null && isKnownCurrency(store, code)) return [code, why]
  }
  return [getSettings(store).currency, 'store']
}

/** The same pricing context where some lists were compiled anew, or amounts of items changed, and nothing else. */
function withLists(prepared: PreparedStore, pricingContext: PricingContext): PricingContext {
  const { lists } = prepared
  const { publicPricingContext } = pricingContext
  const ladder = pricingContext.ladder.map((step) =>
    step.some(({ compiled }) => lists.get(compiled.list.id) !== compiled)
      ? step.map((entry) => ({ ...entry, compiled: lists.get(entry.compiled.list.id) ?? entry.compiled }))
      : step,
  )
  return {
    ...pricingContext,
    lists,
    ladder,
    exclusiveLists: pricingContext.exclusiveLists.map((compiled) => lists.get(compiled.list.id) ?? compiled),
    publicPricingContext: publicPricingContext && withLists(prepared, publicPricingContext),
    reach: { current: reachAfter(prepared, pricingContext, ladder) },
  }
}
