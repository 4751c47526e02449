import 'server-only'

import { type LineMember, listMembers } from '@/sheet/price-lines/list-members'
import { accountFacts } from '@/core/buyers/buyer'
import type { BuyerCode } from '@/core/buyers/buyer-code'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { compare, type Decimal } from '@/core/decimal/decimal'
import { currencyViewInto } from '@/core/engine/context/currency-view'
import { QUANTITY_UNITS } from '@/core/engine/lists/compiled-line'
import type { CompiledList } from '@/core/engine/lists/compiled-list'
import { lineUnits } from '@/core/engine/price/find-in-list'
import { writePriceRule } from '@/core/notation/price-rule-text'
import { scheduleText } from '@/core/predicates/schedule-text'
import { listCoverage } from './list-coverage'
import { priceColumn } from '@/core/engine/column/price-column'
import { breaksText } from '@/core/price/lines/breaks-text'
import type { PriceList } from '@/core/price/lines/price-list'
import { type Breaks, onlyMethod } from '@/core/price/lines/price-method'
import { contractsHolding, isReachedBy } from '@/core/price/reached-by'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import { latestChangesOf } from '@/server/changes/history'
import { revisionOf } from '@/server/views/view'
import type { RequestContext } from '@/server/engine/request-context'
import { Slices } from '@/server/doors/slices'
import { Remembered, wordOf } from '@/server/engine/remembered'
import { formatMoney, rangeText } from '@/ui/format/amount'
import { toHistoryLines } from '@/ui/format/history-line'
import {
  breaksPhrase,
  roundingPhrase,
  whatPhrase,
  whenSentence,
  whoPhrase,
  whoSentence,
} from '@/ui/format/rule-phrases'
import { type LineEffect, type PriceListRow, type PriceListView } from './price-list-view'

const SHOWN_CHANGES = 8

/** Every price list, in the order of its rung and rank. */
export async function loadPriceLists({
  prepared,
  pricingContext,
  quantity,
}: RequestContext): Promise<readonly PriceListRow[]> {
  const { store } = prepared
  const column = priceColumn(prepared, pricingContext, quantity)
  const decided = new Map<string, number>()
  for (const source of column.sources) {
    const list = column.lists[source]
    if (list !== undefined) decided.set(list, (decided.get(list) ?? 0) + 1)
  }
  const rows = await new Slices().map([...store['price-list'].values()], (list): PriceListRow => ({
    code: list.code,
    name: list.name,
    purpose: list.purpose,
    on: list.state === 'on',
    audience: audienceSentence(list, store),
    accounts: accountsReached(list, store).length,
    lines: prepared.lists.get(list.id)?.lines.length ?? 0,
    otherwise: list.defaultLine ? phrase(store, list, list.defaultLine) : '',
    decides: decided.get(list.id) ?? 0,
  }))
  return [...rows].sort((left, right) => (left.name < right.name ? -1 : 1))
}

/**
 * Everything a price list's sheet shows.
 *
 * Errors  `null` when no list has the code.
 */
export async function loadPriceListSheet(
  requestContext: RequestContext,
  code: string,
): Promise<PriceListView | null> {
  const { prepared, view } = requestContext
  const { store } = prepared
  const list = findByCode(store['price-list'], code)
  const compiled = list && prepared.lists.get(list.id)
  if (!list || !compiled) return null
  const { timeZone } = getSettings(store)
  const { currency } = list
  const codeOf = (id: string) => store['price-list'].get(id)?.code ?? id
  const listName = (id: string) => store['price-list'].get(id)?.name ?? id
  const money = (amount: Decimal) => formatMoney(amount, currency, compiled.digits)
  const effects = await knownEffects(requestContext, list.id)
  const none: LineEffect = { variants: 0, base: '', price: '', margin: null, belowCost: 0 }
  return {
    id: list.id,
    code: list.code,
    name: list.name,
    purpose: list.purpose,
    state: list.state,
    rank: list.rank,
    audience: list.audience,
    audienceText: audienceWords(list, store),
    accounts: accountsReached(list, store).length,
    hasFixed: (prepared.lists.get(list.id)?.lines ?? []).some(({ breaks }) =>
      breaks.some(({ method }) => method.kind === 'fixed'),
    ),
    otherwise: list.defaultLine ? breaksText(list.defaultLine, codeOf) : '',
    otherwiseText: list.defaultLine ? phrase(store, list, list.defaultLine) : '',
    otherwiseEffect: list.defaultLine ? (effects.get(compiled.lines.length)?.effect ?? none) : null,
    rounding: list.rounding,
    roundingText: list.rounding ? roundingPhrase(list.rounding) : 'to the cent',
    lines: await new Slices().map(compiled.lines, (line, at) => ({
      id: line.id,
      scope: termsOf(
        line.scope.include.map((term) => whatPhrase(term, store)),
        line.scope.exclude.map((term) => whatPhrase(term, store)),
      ),
      what: line.scope,
      rule: breaksText(line, codeOf),
      ruleText: breaksPhrase(line, money, listName),
      ruleSpoken: writePriceRule(store, line),
      when: line.schedule ? whenSentence(line.schedule) : '',
      whenText: line.schedule ? scheduleText(line.schedule) : '',
      curve: breakCurve(requestContext, compiled, at, effects.get(at)?.example ?? null),
      rounding: onlyMethod(line)?.kind === 'fixed' ? '' : line.rounding ? roundingPhrase(line.rounding) : '',
      effect: effects.get(at)?.effect ?? none,
      example: effects.get(at)?.example ?? null,
    })),
    coverage: await listCoverage(requestContext, list),
    revision: revisionOf(view, 'price-list', list.id) ?? 0,
    vantage: requestContext.vantage,
    example: exampleBuyer(list, store),
    currency,
    digits: compiled.digits,
    live: requestContext.live,
    asOf: view.asOf,
    history: toHistoryLines(await latestChangesOf(view, 'price-list', list.id, SHOWN_CHANGES), timeZone),
  }
}

type LineEffects = ReadonlyMap<number, { effect: LineEffect; example: string }>

const EFFECTS = new Remembered<LineEffects>('line-effects')

function knownEffects(requestContext: RequestContext, listId: string): Promise<LineEffects> {
  const { prepared, pricingContext, quantity } = requestContext
  return EFFECTS.of(requestContext, `${listId}/${quantity}/${wordOf(pricingContext)}`, async () => {
    const { store, index } = prepared
    const digits = prepared.lists.get(listId)?.digits ?? 2
    const members = await listMembers(prepared, pricingContext, listId, quantity)
    const slices = new Slices()
    const effects = new Map<number, { effect: LineEffect; example: string }>()
    for (const [line, own] of members) {
      await slices.rest()
      const example = store.variant.get(index.items[own[0]?.number ?? -1] ?? '')?.sku ?? ''
      effects.set(line, { effect: effectOf(own, digits), example })
    }
    return effects
  })
}

function effectOf(members: readonly LineMember[], digits: number): LineEffect {
  const margins = members.flatMap(({ margin }) => margin ?? []).sort(compare)
  const [low, high] = [margins[0], margins.at(-1)]
  return {
    variants: members.length,
    base: rangeText(
      members.flatMap(({ base }) => base ?? []),
      digits,
    ),
    price: rangeText(
      members.map(({ price }) => price),
      digits,
    ),
    margin: low !== undefined && high !== undefined ? { low, high } : null,
    belowCost: members.filter(({ isBelowCost }) => isBelowCost).length,
  }
}

/** What a line with several breaks gives for one of its items from each quantity on. */
function breakCurve(
  { prepared, pricingContext }: RequestContext,
  compiled: CompiledList,
  position: number,
  sku: string | null,
): PriceListView['lines'][number]['curve'] {
  const line = compiled.line(position)
  const variant = sku === null ? null : findBySku(prepared.store.variant, sku)
  if (line.froms.length < 2 || !variant) return []
  const number = prepared.index.numberOf.get(variant.id) as number
  const currencyView = currencyViewInto(prepared, pricingContext.currencyView, compiled.list.currency)
  return [...line.froms].flatMap((from) => {
    const own = Math.max(from, QUANTITY_UNITS)
    const height = lineUnits(prepared, currencyView, compiled, line, number, { own, counted: null })
    return height === height ? [{ from: own / QUANTITY_UNITS, height }] : []
  })
}

function accountsReached(list: PriceList, store: Store) {
  const holding = contractsHolding(store.contract.values(), list.id)
  return [...store.account.values()].filter((account) =>
    isReachedBy(list, holding, accountFacts(store.group, account)),
  )
}

/** Whom a list is for: its audience, and the contracts that hold it. */
function audienceSentence({ id, audience }: PriceList, store: Store): string {
  const contracts = contractsHolding(store.contract.values(), id).map(({ code }) => `contract ${code}`)
  return termsOf(
    [...audience.include.map((term) => whoPhrase(term, store)), ...contracts],
    audience.exclude.map((term) => whoPhrase(term, store)),
  )
}

function audienceWords({ audience }: PriceList, store: Store): string {
  if (audience.include.length === 0) return 'nobody but those whose contract leads to it'
  return whoSentence(audience, store)
}

function termsOf(include: readonly string[], exclude: readonly string[]): string {
  const join = (words: readonly string[]) =>
    new Intl.ListFormat('en-IE', { type: 'conjunction' }).format(words)
  return exclude.length > 0 ? `${join(include)}, but not ${join(exclude)}` : join(include)
}

function phrase(store: Store, { currency }: PriceList, breaks: Breaks): string {
  return breaksPhrase(
    breaks,
    (amount) => formatMoney(amount, currency, priceDigitsOf(store, currency)),
    (id) => store['price-list'].get(id)?.name ?? id,
  )
}

/** Somebody the list is for: a group it names, else the first account it reaches. */
function exampleBuyer(list: PriceList, store: Store): PriceListView['example'] {
  for (const term of list.audience.include) {
    const group = term.kind === 'group' ? store.group.get(term.group) : undefined
    if (group) return { as: `group:${group.code}` as BuyerCode, name: group.name }
  }
  const [account] = accountsReached(list, store)
  return account ? { as: `account:${account.code}`, name: account.name } : null
}
