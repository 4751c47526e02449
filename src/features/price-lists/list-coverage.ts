import 'server-only'

import { accountFacts } from '@/core/buyers/buyer'
import type { BuyerReference } from '@/core/buyers/buyer'
import { distancesUp, inTreeOrder } from '@/core/catalogue/category'
import type { ListPrices } from '@/core/engine/list-prices'
import type { PreparedStore } from '@/core/engine/prepared-store'
import { priceColumn } from '@/core/engine/price-column'
import type { Situation } from '@/core/engine/situation'
import type { PriceList } from '@/core/price/price-list'
import { contractsHolding, isReachedBy } from '@/core/price/reached-by'
import type { Store } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import { type Outlook, situationOf } from '@/server/engine/look-from'
import type { CoverageView } from './price-list-view'

/** Buyers with other rights than those before them that are looked through; beyond it a figure is said to be of so many. */
const MOST_KINDS = 40
const NAMED = 6

/** How many variants are looked at between two looks at the clock. */
const VARIANTS_A_STEP = 1_000

/**
 * How much of the catalogue a list prices, and how much of that it decides for anybody it is for, at the instant and
 * quantity looked at: what it prices and never decides, other lists decide before it.
 */
export async function listCoverage(
  outlook: Outlook,
  list: PriceList,
  found: ListPrices,
): Promise<CoverageView> {
  const { prepared, quantity } = outlook
  const { store, index } = prepared
  const decided = new Uint8Array(index.variantCount)
  const situations = kindsOfBuyers(outlook, list)
  const slices = new Slices()
  for (const situation of situations) {
    await slices.rest()
    const { sources, lists } = priceColumn(prepared, situation, quantity)
    const at = new Set(lists.flatMap((id, source) => (id === list.id ? [source] : [])))
    for (let number = 0; number < index.variantCount; number += 1)
      if (at.has(sources[number] as number)) decided[number] = 1
  }
  const branches = new Map(
    topBranches(store).map((branch) => [branch.id, { ...branch, of: 0, priced: 0, decided: 0 }]),
  )
  const never: number[] = []
  let [of, priced] = [0, 0]
  const topsOf = topsOfProduct(store)
  for (let number = 0; number < index.variantCount; number += 1) {
    if (number % VARIANTS_A_STEP === 0) await slices.rest()
    const variant = store.variant.get(index.items[number] as string)
    if (variant?.status !== 'active') continue
    const isPriced = (found.lineOf[number] as number) >= 0
    of += 1
    if (isPriced) priced += 1
    if (isPriced && decided[number] === 0) never.push(number)
    for (const top of topsOf(variant.product)) {
      const branch = branches.get(top)
      if (!branch) continue
      branch.of += 1
      if (isPriced) branch.priced += 1
      if (decided[number] === 1) branch.decided += 1
    }
  }
  return {
    of,
    priced,
    decided: priced - never.length,
    kinds: situations.length,
    never: {
      count: never.length,
      some: never.slice(0, NAMED).map((number) => ({
        sku: store.variant.get(index.items[number] as string)?.sku ?? '',
        instead: deciderOf(prepared, situations[0], quantity, number),
      })),
    },
    branches: [...branches.values()].filter(({ of: all }) => all > 0),
  }
}

/** One situation for each kind of buyer the list is for: those with equal rights are one kind. */
function kindsOfBuyers({ prepared, standpoint }: Outlook, list: PriceList): readonly Situation[] {
  const { store } = prepared
  const holding = contractsHolding(store.contract.values(), list.id)
  const isFor = (kind: string) => list.audience.include.some((term) => term.kind === kind)
  const buyers: BuyerReference[] = [
    ...(isFor('everyone') || isFor('guests') ? [{ kind: 'guest' } as const] : []),
    ...[...store.account.values()]
      .filter((account) => isReachedBy(list, holding, accountFacts(store.group, account)))
      .map(({ id }) => ({ kind: 'account', account: id }) as const),
  ]
  const kinds = new Map<string, Situation>()
  for (const buyer of buyers) {
    if (kinds.size >= MOST_KINDS) break
    const situation = situationOf(prepared, { ...standpoint, buyer, deliverTo: null, currency: null })
    if (!kinds.has(situation.key)) kinds.set(situation.key, situation)
  }
  return [...kinds.values()]
}

function deciderOf(
  prepared: PreparedStore,
  situation: Situation | undefined,
  quantity: number,
  number: number,
): string {
  if (!situation) return 'nobody it is for'
  const { sources, lists } = priceColumn(prepared, situation, quantity)
  const id = lists[sources[number] as number]
  return id === undefined ? 'the base price' : (prepared.store['price-list'].get(id)?.name ?? id)
}

function topBranches({ category }: Store) {
  return inTreeOrder(category).flatMap(({ category: { id, name }, depth }) =>
    depth === 0 ? [{ id, name }] : [],
  )
}

/** The branches at the top a product hangs on, found once a product. */
function topsOfProduct(store: Store): (product: string) => readonly string[] {
  const known = new Map<string, readonly string[]>()
  return (id) => {
    let tops = known.get(id)
    if (!tops) {
      const reached = distancesUp(store.category, store.product.get(id)?.categories ?? [])
      tops = [...reached.keys()].filter((each) => store.category.get(each)?.parent === null)
      known.set(id, tops)
    }
    return tops
  }
}
