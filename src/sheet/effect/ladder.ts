import 'server-only'

import { findRights } from '@/core/engine/rules/find-rights'
import { listPrices } from '@/core/engine/price/list-prices'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { priceColumn } from '@/core/engine/column/price-column'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { isOwnRung, type Rung } from '@/core/price/ladder'
import { yieldToOthers, Slices } from '@/server/doors/slices'
import { Remembered, wordOf } from '@/server/engine/remembered'
import { type SoldVariant, soldVariants } from '@/server/engine/sold-variants'
import { recordHref } from '@/ui/frame/record-href'

/** One list of a buyer's ladder, or the base price below all of them. */
interface LadderRow {
  readonly id: string | null
  readonly name: string
  readonly href: string | null
  /** Why it is theirs: "by contract C-104", "of their group". */
  readonly about: string
  /** Id of the contract that leads to it. */
  readonly contract: string | null
  /** Variants whose price it gives them, and those it has any price for. */
  readonly decides: number
  readonly prices: number
}

export interface LadderView {
  readonly rows: readonly LadderRow[]
  /** Lists further down that are not counted one by one. */
  readonly more: number
  readonly total: number
  readonly see: number
  readonly buy: number
  /** Seen, and without a price. */
  readonly withoutPrice: readonly SoldVariant[]
  readonly hidden: readonly { readonly item: SoldVariant; readonly because: string }[]
}

const RUNG_WORDS: Readonly<Record<Rung, string>> = {
  contract: 'by contract',
  account: 'their own',
  group: 'of their group',
  'signed-in': 'for signed-in buyers and guests',
  everyone: 'for everyone',
}
/** Lists that are counted one by one: reading a whole list is linear in the catalogue. */
const MOST_COUNTED = 8

/** A buyer's ladder top to bottom, how much each rung decides, and what they see and buy. */
export function ladderOf(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  quantity: number,
): Promise<LadderView> {
  return LADDERS.of({ prepared }, `${quantity}/${wordOf(pricingContext)}`, () =>
    computeLadder(prepared, pricingContext, quantity),
  )
}

const LADDERS = new Remembered<LadderView>('ladders')

async function computeLadder(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  quantity: number,
): Promise<LadderView> {
  const column = priceColumn(prepared, pricingContext, quantity)
  await yieldToOthers()
  const sold = await soldVariants(prepared)
  const decides = new Map<string, number>()
  const [withoutPrice, hidden]: [SoldVariant[], { item: SoldVariant; because: string }[]] = [[], []]
  let [see, buy] = [0, 0]
  const slices = new Slices()
  for (const item of sold) {
    if (slices.isDue()) await slices.rest()
    const access = findRights(prepared, pricingContext, item.number)
    if (!access.see) {
      hidden.push({ item, because: whyOf(prepared, access.because) })
      continue
    }
    see += 1
    const hasPrice = !Number.isNaN(column.prices[item.number])
    if (access.buy && hasPrice) buy += 1
    if (!hasPrice) withoutPrice.push(item)
    const source = column.sources[item.number] ?? -1
    if (hasPrice) {
      const list = column.lists[source] ?? 'base'
      decides.set(list, (decides.get(list) ?? 0) + 1)
    }
  }
  const entries = pricingContext.ladder.flat()
  const rows: LadderRow[] = []
  for (const { compiled, rung, contract } of entries.slice(0, MOST_COUNTED)) {
    const { list } = compiled
    await slices.rest()
    const found = listPrices(prepared, pricingContext, list.id, { own: quantity, counted: null })
    rows.push({
      id: list.id,
      name: list.name,
      href: recordHref('price-lists', list.code),
      about: contract
        ? `by contract ${contract.code}`
        : `${RUNG_WORDS[rung]}${isOwnRung(rung) && list.rank !== 1 ? `, priority ${list.rank}` : ''}`,
      contract: contract?.id ?? null,
      decides: decides.get(list.id) ?? 0,
      prices: found ? sold.filter(({ number }) => (found.lineOf[number] ?? -1) >= 0).length : 0,
    })
  }
  rows.push({
    id: null,
    name: 'Base price',
    href: null,
    about: 'what is left',
    contract: null,
    decides: decides.get('base') ?? 0,
    prices: sold.filter(({ variant, product }) => (variant.basePrice ?? product.basePrice) !== null).length,
  })
  return {
    rows,
    more: Math.max(0, entries.length - MOST_COUNTED),
    total: sold.length,
    see,
    buy,
    withoutPrice,
    hidden,
  }
}

function whyOf({ store }: PreparedStore, because: ReturnType<typeof findRights>['because']): string {
  switch (because?.code) {
    case 'rule':
      return store['access-rule'].get(because.rule)?.name ?? 'an access rule'
    case 'assortment': {
      const owner =
        because.of.kind === 'contract'
          ? store.contract.get(because.of.id)?.code
          : store.channel.get(because.of.id)?.name
      return `outside the assortment of ${owner ?? 'the channel'}`
    }
    case 'gate':
      return `${store.channel.get(because.channel)?.name ?? 'the channel'} asks them to sign in first`
    case 'not-offered':
      return `not in ${because.lists.map((id) => store['price-list'].get(id)?.name ?? id).join(', ')}`
    case 'review':
      return 'a passcode for looking only'
    default:
      return 'archived'
  }
}
