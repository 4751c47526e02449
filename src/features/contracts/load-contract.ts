import 'server-only'

import type { Decimal } from '@/core/decimal/decimal'
import { compare } from '@/core/decimal/decimal'
import { writePriceRule } from '@/core/notation/price-rule-text'
import { withChanges } from '@/core/engine/prepare'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { toInstant } from '@/core/predicates/when'
import type { Contract } from '@/core/price/contract'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import { pricingContextOf } from '@/server/engine/request-context'
import { ladderOf, type LadderView } from '@/sheet/effect/ladder'
import { amountOn, type MovesSummary, priceMoves, priceSide, summaryOf } from '@/sheet/effect/price-moves'
import { partyBuyer } from '@/sheet/price-lines/agreed-line'
import { listMembers } from '@/sheet/price-lines/list-members'
import type { LoadedSheet } from '@/sheet/record/load-sheet'
import type { ShareKind } from '@/ui/chart/share-bar'
import { formatMoney, rangeText } from '@/ui/format/amount'
import {
  breaksPhrase,
  roundingPhrase,
  whatSentence,
  whenSentence,
  whoSentence,
} from '@/ui/format/rule-phrases'
import { recordHref } from '@/ui/frame/record-href'

/** A line of one of the contract's lists, with what it comes to. */
export interface AgreedLine {
  readonly id: string
  readonly list: string
  readonly scope: string
  /** As it is typed. */
  readonly rule: string
  readonly ruleWords: string
  readonly when: string
  readonly variants: number
  /** What its parties would pay without the contract, and what they pay. */
  readonly without: string
  readonly pays: string
  readonly margin: Decimal | null
  readonly isBelowCost: boolean
}

export interface AgreedList {
  readonly id: string
  readonly name: string
  readonly href: string
  /** "switched on, to the nearest .05, always" */
  readonly about: string
  readonly lines: readonly AgreedLine[]
  readonly otherwise: string
}

export interface ContractView {
  readonly id: string
  readonly party: string | null
  readonly lists: readonly AgreedList[]
  readonly ladder: LadderView | null
  /** Variants by what decides: lists of the contract, the best other list, base price, nothing, outside. */
  readonly coverage: readonly { readonly name: string; readonly count: number; readonly kind: ShareKind }[]
  readonly total: number
  readonly bound: readonly { readonly name: string; readonly href: string; readonly about: string }[]
  /** What ends with it: the same prices without the contract. */
  readonly ending: MovesSummary | null
  readonly farthest: string
  readonly period: { readonly from: number | null; readonly to: number | null; readonly now: number }
  readonly timeZone: string
}

/** What a contract agrees, what that comes to for whoever it binds, and what its end would change. */
export async function loadContract({ record, id, before, after }: LoadedSheet): Promise<ContractView> {
  const requestContext = after ?? before
  const { prepared } = requestContext
  const { store } = prepared
  const contract = { ...(record as unknown as Contract), id }
  const known = store.contract.get(id)
  const party = known ? partyBuyer(store, { kind: 'contract', id }) : null
  const { timeZone } = getSettings(store)
  const { at } = requestContext.buyerContext
  const start = contract.from ? toInstant(contract.from, timeZone) : null
  const end = contract.to ? toInstant(contract.to, timeZone) : null
  // Before its time it is looked at when it begins.
  const instant = start !== null && start > at ? start : at
  const look = party
    ? { ...buyerContext(party, instant), channel: requestContext.buyerContext.channel }
    : null
  const active = known && known.state !== 'active' ? withState(prepared, known, 'active') : prepared
  const suspended = known ? withState(prepared, known, 'suspended') : prepared
  const isOver = end !== null && end <= instant
  const pays = look && !isOver ? priceSide(active, look, requestContext.quantity) : null
  const without = look ? priceSide(suspended, look, requestContext.quantity) : null
  const ladder = pays ? await ladderOf(active, pays.pricingContext, requestContext.quantity) : null
  const ending = pays && without ? await priceMoves(pays, without) : null
  const lists: AgreedList[] = []
  for (const listId of contract.lists) {
    const list = store['price-list'].get(listId)
    const compiled = prepared.lists.get(listId)
    if (!list || !compiled) continue
    const pricingContext = pays?.pricingContext ?? requestContext.pricingContext
    const members = await listMembers(active, pricingContext, listId, requestContext.quantity)
    const money = (amount: Decimal) => formatMoney(amount, list.currency, compiled.digits)
    const words = (breaks: Parameters<typeof breaksPhrase>[0]) =>
      breaksPhrase(breaks, money, (other) => store['price-list'].get(other)?.name ?? other)
    lists.push({
      id: listId,
      name: list.name,
      href: recordHref('price-lists', list.code),
      about: [
        `switched ${list.state}`,
        list.rounding ? roundingPhrase(list.rounding) : 'to the cent',
        list.currency,
        list.audience.include.length > 0 && `also for ${whoSentence(list.audience, store)} without it`,
        isShared(store, id, listId) && 'shared with other contracts',
      ]
        .filter(Boolean)
        .join(', '),
      otherwise: list.defaultLine ? words(list.defaultLine) : '',
      lines: compiled.lines.map((line, place): AgreedLine => {
        const own = members.get(place) ?? []
        const margins = own.flatMap(({ margin }) => margin ?? []).sort(compare)
        return {
          id: line.id,
          list: listId,
          scope: whatSentence(line.scope, store),
          rule: writePriceRule(store, line),
          ruleWords: words(line),
          when: line.schedule ? whenSentence(line.schedule) : '',
          variants: own.length,
          without: without
            ? rangeText(
                own.map(({ number }) => amountOn(without, number)),
                without.pricingContext.digits,
              )
            : '',
          pays: rangeText(
            own.map(({ price }) => price),
            compiled.digits,
          ),
          margin: margins[0] ?? null,
          isBelowCost: own.some(({ isBelowCost }) => isBelowCost),
        }
      }),
    })
  }
  return {
    id,
    party: partyName(store, contract),
    lists,
    ladder,
    coverage: ladder ? coverageOf(ladder, id) : [],
    total: ladder?.total ?? 0,
    bound: boundBy(store, contract),
    ending: ending && summaryOf(ending),
    farthest: ending && look ? farthestOf(ending, store, look, suspended) : '',
    period: { from: start, to: end, now: at },
    timeZone,
  }
}

function isShared(store: Store, contract: string, list: string): boolean {
  return [...store.contract.values()].some((other) => other.id !== contract && other.lists.includes(list))
}

function withState(
  prepared: LoadedSheet['before']['prepared'],
  contract: Contract,
  state: Contract['state'],
) {
  return contract.state === state
    ? prepared
    : withChanges(prepared, [
        { kind: 'contract', id: contract.id, before: contract, after: { ...contract, state } },
      ])
}

function coverageOf(ladder: LadderView, contract: string): ContractView['coverage'] {
  const agreed = ladder.rows.filter((row) => row.contract === contract)
  const others = ladder.rows.filter((row) => row.id !== null && row.contract !== contract && row.decides > 0)
  const base = ladder.rows.find((row) => row.id === null)
  const sum = (rows: readonly { readonly decides: number }[]) =>
    rows.reduce((total, { decides }) => total + decides, 0)
  return [
    { name: 'agreed here', count: sum(agreed), kind: 'agreed' },
    ...(others.length > 0
      ? [
          {
            name: others.length === 1 ? (others[0]?.name ?? '') : 'other lists',
            count: sum(others),
            kind: 'other' as const,
          },
        ]
      : []),
    { name: 'base price', count: base?.decides ?? 0, kind: 'base' },
    { name: 'no price', count: ladder.withoutPrice.length, kind: 'none' },
    { name: 'not offered to them', count: ladder.hidden.length, kind: 'outside' },
  ]
}

function partyName(store: Store, { accounts, groups }: Contract): string | null {
  return store.account.get(accounts[0] ?? '')?.name ?? store.group.get(groups[0] ?? '')?.name ?? null
}

const MOST_BOUND = 8

function boundBy(store: Store, { accounts, groups }: Contract): ContractView['bound'] {
  const members = [...store.account.values()].filter(({ groups: own }) =>
    own.some((each) => groups.includes(each)),
  )
  const all = [...new Set([...accounts, ...members.map(({ id }) => id)])]
  return all.slice(0, MOST_BOUND).flatMap((id) => {
    const account = store.account.get(id)
    return account
      ? [
          {
            name: account.name,
            href: recordHref('accounts', account.code),
            about:
              account.emails.length > 0 ? `signs in as ${account.emails.join(', ')}` : 'nobody signs in yet',
          },
        ]
      : []
  })
}

/** The price that moves most when the contract ends. */
function farthestOf(
  moves: Awaited<ReturnType<typeof priceMoves>>,
  store: Store,
  look: Parameters<typeof pricingContextOf>[1],
  prepared: LoadedSheet['before']['prepared'],
): string {
  const { currency } = pricingContextOf(prepared, look)
  const digits = priceDigitsOf(store, currency)
  let [most, text] = [0, '']
  for (const { item, before, after } of moves) {
    if (before === null || after === null) continue
    const far = Math.abs(Number(after) / Number(before) - 1)
    if (far <= most) continue
    most = far
    text = `${item.product.name}: ${formatMoney(before, currency, digits)} → ${formatMoney(after, currency, digits)}`
  }
  return text
}
