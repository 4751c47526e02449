import 'server-only'

import { accountFacts } from '@/core/buyers/buyer'
import type { BuyerReference } from '@/core/buyers/buyer'
import { inTreeOrder } from '@/core/catalogue/category'
import { listPrices } from '@/core/engine/price/list-prices'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { priceColumn } from '@/core/engine/column/price-column'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import type { PriceList } from '@/core/price/lines/price-list'
import { contractsHolding, isReachedBy } from '@/core/price/reached-by'
import type { Store } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import { type RequestContext, pricingContextOf } from '@/server/engine/request-context'
import { Remembered, wordOf } from '@/server/engine/remembered'
import { soldVariants } from '@/server/engine/sold-variants'
import type { CoverageView } from './price-list-view'

/** Buyers with other rights than those before them that are looked through; beyond it a figure is said to be of so many. */
const MOST_KINDS = 40
const NAMED = 6

const COVERAGE = new Remembered<CoverageView>('coverage')

/**
 * How much of the catalogue a list prices, and how much of that it decides for anybody it is for, at the instant and
 * quantity looked at: what it prices and never decides, other lists decide before it.
 */
export async function listCoverage(requestContext: RequestContext, list: PriceList): Promise<CoverageView> {
  const { pricingContext, quantity } = requestContext
  const kinds = await kindsOfBuyers(requestContext, list)
  const words = [pricingContext, ...kinds].map(wordOf).join()
  return COVERAGE.of(requestContext, `${list.id}/${quantity}/${words}`, () =>
    cover(requestContext, list, kinds),
  )
}

async function cover(
  { prepared, pricingContext, quantity }: RequestContext,
  list: PriceList,
  kinds: readonly PricingContext[],
): Promise<CoverageView> {
  const { store, index } = prepared
  const found = listPrices(prepared, pricingContext, list.id, { own: quantity, counted: null })
  const decided = new Uint8Array(index.variantCount)
  const slices = new Slices()
  for (const kind of kinds) {
    await slices.rest()
    const { sources, lists } = priceColumn(prepared, kind, quantity)
    const at = new Set(lists.flatMap((id, source) => (id === list.id ? [source] : [])))
    for (let number = 0; number < index.variantCount; number += 1)
      if (at.has(sources[number] as number)) decided[number] = 1
  }
  const branches = new Map(
    topBranches(store).map((branch) => [branch.id, { ...branch, of: 0, priced: 0, decided: 0 }]),
  )
  const never: number[] = []
  let priced = 0
  const sold = await soldVariants(prepared)
  for (const { number, branches: reached } of sold) {
    if (slices.isDue()) await slices.rest()
    const isPriced = found !== null && (found.lineOf[number] as number) >= 0
    if (isPriced) priced += 1
    if (isPriced && decided[number] === 0) never.push(number)
    for (const id of reached) {
      const branch = branches.get(id)
      if (!branch) continue
      branch.of += 1
      if (isPriced) branch.priced += 1
      if (decided[number] === 1) branch.decided += 1
    }
  }
  return {
    of: sold.length,
    priced,
    decided: priced - never.length,
    kinds: kinds.length,
    never: {
      count: never.length,
      some: never.slice(0, NAMED).map((number) => ({
        sku: store.variant.get(index.items[number] as string)?.sku ?? '',
        instead: deciderOf(prepared, kinds[0], quantity, number),
      })),
    },
    branches: [...branches.values()].filter(({ of: all }) => all > 0),
  }
}

/** One pricing context for each kind of buyer the list is for: those with equal rights are one kind. */
async function kindsOfBuyers(
  { prepared, buyerContext }: RequestContext,
  list: PriceList,
): Promise<readonly PricingContext[]> {
  const { store } = prepared
  const holding = contractsHolding(store.contract.values(), list.id)
  const isFor = (kind: string) => list.audience.include.some((term) => term.kind === kind)
  const buyers: BuyerReference[] = [
    ...(isFor('everyone') || isFor('guests') ? [{ kind: 'guest' } as const] : []),
    ...[...store.account.values()]
      .filter((account) => isReachedBy(list, holding, accountFacts(store.group, account)))
      .map(({ id }) => ({ kind: 'account', account: id }) as const),
  ]
  const kinds = new Map<string, PricingContext>()
  const slices = new Slices()
  for (const buyer of buyers) {
    if (kinds.size >= MOST_KINDS) break
    await slices.rest()
    const pricingContext = pricingContextOf(prepared, {
      ...buyerContext,
      buyer,
      deliverTo: null,
      currency: null,
    })
    if (!kinds.has(pricingContext.key)) kinds.set(pricingContext.key, pricingContext)
  }
  return [...kinds.values()]
}

function deciderOf(
  prepared: PreparedStore,
  pricingContext: PricingContext | undefined,
  quantity: number,
  number: number,
): string {
  if (!pricingContext) return 'nobody it is for'
  const { sources, lists } = priceColumn(prepared, pricingContext, quantity)
  const id = lists[sources[number] as number]
  return id === undefined ? 'the base price' : (prepared.store['price-list'].get(id)?.name ?? id)
}

function topBranches({ category }: Store) {
  return inTreeOrder(category).flatMap(({ category: { id, name }, depth }) =>
    depth === 0 ? [{ id, name }] : [],
  )
}
