'use server'

import { TEXT, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { compare, type Decimal } from '@/core/decimal/decimal'
import { itemName } from '@/core/catalogue/product'
import { QUANTITY_UNITS } from '@/core/engine/lists/compiled-line'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { differencePercent } from '@/core/decimal/difference-percent'
import { checkVantages } from '@/server/changes/check-amount-edits'
import { weigh } from '@/server/changes/weigh'
import { toRefusal } from '@/server/changes/to-refusal'
import { lookFrom } from '@/server/engine/look-from'
import { pricingContextOf } from '@/server/engine/request-context'
import { currentView } from '@/server/views/current-view'
import { shownIn } from '@/server/views/view'
import { amountOn, meanPercent, priceSide } from '@/sheet/effect/price-moves'
import { agreedRequests, partyBuyer } from '@/sheet/price-lines/agreed-line'
import { type LineMember, listMembers } from '@/sheet/price-lines/list-members'
import { readLineRule, readLineScope } from '@/sheet/price-lines/read-line'
import { formatAmount } from '@/ui/format/amount'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import type { ListName, RuleContext, TriedRow, TriedRule } from '@/ui/picker/rule/rule-choices'

const ROWS = 5
const MOST_BREAKS = 4

/** Every price list a rule can start from. */
export const loadListNames = merchantAction('prices:look', [], async (): Promise<readonly ListName[]> => {
  const { store } = (await currentView()).prepared
  return [...store['price-list'].values()]
    .filter(({ status }) => status === 'active')
    .map(({ id, code, name }) => ({ id, code, name }))
    .sort((left, right) => left.name.localeCompare(right.name, 'en'))
})

/** What a rule would do to the items it is for: weighed as the line would be saved, with nothing written. */
export const tryPriceRule = merchantAction(
  'prices:look',
  [THING, TEXT],
  async (context: RuleContext, rule: string): Promise<TriedRule> => {
    if (checkVantages([context.vantage]) !== null)
      return { ok: false, problem: 'Reload the page, and try again.' }
    const view = await currentView()
    const { store } = view.prepared
    const known = context.line === null ? undefined : store['price-line'].get(context.line)
    const scope = known ? { ok: true as const, value: known.scope } : readLineScope(store, context.what)
    if (!scope.ok) return scope
    const read = readLineRule(store, rule)
    if (!read.ok) return read
    const requests = agreedRequests(view, context, scope.value, read.value)
    if (!requests.ok) return requests
    const weighed = await weigh(view, requests.requests)
    if (!weighed.ok && weighed.code !== 'nothing-to-change')
      return { ok: false, problem: refusalSentence(toRefusal(weighed)) }
    const after = shownIn(view, weighed.ok ? weighed.after : view.prepared)
    const requestContext = await lookFrom(context.vantage)
    const buyer = context.party ? partyBuyer(store, context.party) : requestContext.buyer
    const look = buyer
      ? {
          ...buyerContext(buyer, requestContext.buyerContext.at),
          channel: requestContext.buyerContext.channel,
        }
      : requestContext.buyerContext
    const compiled = after.lists.get(requests.list)
    const place = compiled?.lines.findIndex(({ id }) => id === requests.line) ?? -1
    if (!compiled || place < 0) return { ok: false, problem: 'The line reaches nothing.' }
    const froms = read.value.breaks.slice(0, MOST_BREAKS).map(({ from }) => from)
    const pricingContext = pricingContextOf(after, look)
    const columns: ReadonlyMap<number, LineMember>[] = []
    for (const from of froms) {
      const own = Math.max(QUANTITY_UNITS, Math.round(Number(from) * QUANTITY_UNITS))
      const members = (await listMembers(after, pricingContext, requests.list, own)).get(place) ?? []
      columns.push(new Map(members.map((member) => [member.number, member])))
    }
    const [first] = columns
    const now = priceSide(view.prepared, look, QUANTITY_UNITS)
    const members = [...(first?.values() ?? [])].sort((left, right) =>
      compareMargins(left.margin, right.margin),
    )
    const money = (amount: Decimal) => formatAmount(amount, compiled.digits)
    const percents = members.flatMap(({ number, price }) => {
      const then = amountOn(now, number)
      return then === null || now.pricingContext.currency !== compiled.list.currency
        ? []
        : (differencePercent(price, then) ?? [])
    })
    return {
      ok: true,
      froms,
      count: members.length,
      mean: meanPercent(percents),
      belowCost: columns.map(
        (column) => [...column.values()].filter(({ isBelowCost }) => isBelowCost).length,
      ),
      rows: members.slice(0, ROWS).map(({ number }): TriedRow => {
        const variant = after.store.variant.get(after.index.items[number] ?? '')
        const product = variant && after.store.product.get(variant.product)
        const then = amountOn(now, number)
        return {
          name: product && variant ? itemName(product, variant) : '',
          now: then === null ? '–' : formatAmount(then, now.pricingContext.digits),
          prices: columns.map((column) => {
            const member = column.get(number)
            return member
              ? { price: money(member.price), margin: member.margin, isBelowCost: member.isBelowCost }
              : { price: '–', margin: null, isBelowCost: false }
          }),
        }
      }),
    }
  },
)

function compareMargins(left: Decimal | null, right: Decimal | null): number {
  if (left === null || right === null) return Number(left === null) - Number(right === null)
  return compare(left, right)
}
