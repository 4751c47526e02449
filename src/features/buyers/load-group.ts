import 'server-only'

import { accountFacts } from '@/core/buyers/buyer'
import { inTreeOrder } from '@/core/catalogue/category'
import { compare, type Decimal } from '@/core/decimal/decimal'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { isPartyTo } from '@/core/price/contract'
import { differencePercent } from '@/core/decimal/difference-percent'
import { Slices } from '@/server/doors/slices'
import { pricingContextOf } from '@/server/engine/request-context'
import { Remembered, wordOf } from '@/server/engine/remembered'
import { soldVariants } from '@/server/engine/sold-variants'
import { ladderOf, type LadderView } from '@/sheet/effect/ladder'
import { amountOn, meanPercent, type PriceSide, priceSide } from '@/sheet/effect/price-moves'
import type { LoadedSheet } from '@/sheet/record/load-sheet'
import { formatMoney } from '@/ui/format/amount'
import { countryName } from '@/ui/format/place-names'
import { recordHref } from '@/ui/frame/record-href'
import { type OpenPromotion, openPromotions } from './open-promotions'

export interface GroupMember {
  readonly id: string
  readonly name: string
  readonly href: string
  readonly place: string
  /** What comes before the group's level for them. */
  readonly before: string
  readonly currency: string
}

export interface GroupView {
  readonly promotions: readonly OpenPromotion[]
  readonly code: string
  readonly members: readonly GroupMember[]
  readonly memberCount: number
  readonly ladder: LadderView
  /** Mean difference to the base price by branch, in percent; beside another group. */
  readonly branches: readonly {
    readonly name: string
    readonly here: Decimal | null
    readonly other: Decimal | null
  }[]
  readonly otherName: string | null
  /** A product as the shop shows it to a member. */
  readonly sample: { readonly name: string; readonly price: string; readonly publicPrice: string } | null
}

const MOST_MEMBERS = 60

/** Who is in a group, what decides for a member, and how far its prices are from the base and from another group's. */
export async function loadGroup({ id, before, after }: LoadedSheet): Promise<GroupView | null> {
  const requestContext = after ?? before
  const { prepared } = requestContext
  const { store } = prepared
  const group = store.group.get(id)
  if (!group) return null
  const { at } = requestContext.buyerContext
  const { channel } = requestContext.buyerContext
  const lookOf = (groupId: string) => ({
    ...buyerContext({ kind: 'group', group: groupId } as const, at),
    channel,
  })
  const own = priceSide(prepared, lookOf(id), requestContext.quantity)
  const other = [...store.group.values()]
    .filter((each) => each.id !== id && each.status === 'active')
    .sort(
      (left, right) =>
        Number(right.trade === group.trade) - Number(left.trade === group.trade) ||
        left.position - right.position,
    )[0]
  const others = other ? priceSide(prepared, lookOf(other.id), requestContext.quantity) : null
  const guest = priceSide(
    prepared,
    { ...buyerContext({ kind: 'guest' }, at), channel },
    requestContext.quantity,
  )
  const members = [...store.account.values()].filter(
    ({ groups, status }) => groups.includes(id) && status === 'active',
  )
  const sides = [own, others, guest].map((side) => (side ? wordOf(side.pricingContext) : '')).join('/')
  const { means, sample } = await MEANS.of({ prepared }, `${requestContext.quantity}/${sides}`, () =>
    meansByBranch(own, others, guest),
  )
  return {
    code: group.code,
    promotions: openPromotions(prepared, pricingContextOf(prepared, lookOf(id)), at),
    memberCount: members.length,
    members: members.slice(0, MOST_MEMBERS).map((account): GroupMember => {
      const facts = accountFacts(store.group, account)
      const contracts = [...store.contract.values()].filter(
        (contract) => contract.state === 'active' && isPartyTo(contract, facts),
      )
      const { currency } = pricingContextOf(prepared, {
        ...buyerContext({ kind: 'account', account: account.id }, at),
        channel,
      })
      return {
        id: account.id,
        name: account.name,
        href: recordHref('accounts', account.code),
        place: [account.city, countryName(account.country)].filter(Boolean).join(', '),
        before:
          [
            ...contracts.map(({ code }) => `contract ${code}`),
            ...account.tags.map((tag) => `tag ${tag}`),
          ].join(', ') || 'nothing',
        currency,
      }
    }),
    ladder: await ladderOf(prepared, own.pricingContext, requestContext.quantity),
    branches: inTreeOrder(store.category)
      .filter(({ depth }) => depth === 0)
      .flatMap(({ category }) => {
        const mean = means.get(category.id)
        return mean ? [{ name: category.name, ...mean }] : []
      }),
    otherName: other?.name ?? null,
    sample,
  }
}

interface BranchMeans {
  /** By category, in percent. */
  readonly means: ReadonlyMap<string, { readonly here: Decimal | null; readonly other: Decimal | null }>
  readonly sample: GroupView['sample']
}

const MEANS = new Remembered<BranchMeans>('branch-means')

/** The mean difference to the base price on two sides, by branch; and a product that costs less here than for guests. */
async function meansByBranch(
  own: PriceSide,
  others: PriceSide | null,
  guest: PriceSide,
): Promise<BranchMeans> {
  const byBranch = new Map<string, { here: Decimal[]; other: Decimal[] }>()
  const slices = new Slices()
  let sample: GroupView['sample'] = null
  for (const { number, variant, product, branches } of await soldVariants(own.prepared)) {
    if (slices.isDue()) await slices.rest()
    const base = variant.basePrice ?? product.basePrice
    if (base === null) continue
    const here = amountOn(own, number)
    const there = others && amountOn(others, number)
    if (!sample) sample = sampleOf(own, guest, number, product.name)
    const off = here && differencePercent(here, base)
    const otherOff = there && differencePercent(there, base)
    for (const branch of branches) {
      const cell = byBranch.get(branch) ?? { here: [], other: [] }
      byBranch.set(branch, cell)
      if (off) cell.here.push(off)
      if (otherOff) cell.other.push(otherOff)
    }
  }
  const means = [...byBranch].map(
    ([id, { here, other }]) => [id, { here: meanPercent(here), other: meanPercent(other) }] as const,
  )
  return { means: new Map(means), sample }
}

function sampleOf(own: PriceSide, guest: PriceSide, number: number, name: string): GroupView['sample'] {
  const [here, shown] = [amountOn(own, number), amountOn(guest, number)]
  if (here === null || shown === null || compare(here, shown) >= 0) return null
  return {
    name,
    price: formatMoney(here, own.pricingContext.currency, own.pricingContext.digits),
    publicPrice: formatMoney(shown, guest.pricingContext.currency, guest.pricingContext.digits),
  }
}
