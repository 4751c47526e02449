import 'server-only'

import type { Gate } from '@/core/access/access'
import { inTreeOrder } from '@/core/catalogue/category'
import { findRights, isUnrestricted } from '@/core/engine/rules/find-rights'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { Slices } from '@/server/doors/slices'
import { type RequestContext, pricingContextOf } from '@/server/engine/request-context'
import { Remembered, wordOf } from '@/server/engine/remembered'
import { soldVariants } from '@/server/engine/sold-variants'

/** How many variants of a branch some buyers see, see the price of, buy, and can ask a quote for. */
interface AccessCell {
  readonly all: number
  readonly see: number
  readonly price: number
  readonly buy: number
  readonly quote: number
}

export interface AccessView {
  readonly gates: readonly { readonly code: string; readonly name: string; readonly gate: Gate }[]
  readonly columns: readonly { readonly as: string; readonly name: string }[]
  readonly rows: readonly {
    readonly code: string
    readonly name: string
    readonly depth: number
    readonly cells: readonly AccessCell[]
  }[]
}

/** Every branch against guests, every group and whoever is looked as. */
export async function loadAccess({
  prepared,
  buyerContext,
  as,
  buyerName,
}: RequestContext): Promise<AccessView> {
  const { store } = prepared
  const groups = [...store.group.values()]
    .filter(({ status }) => status === 'active')
    .sort((left, right) => left.position - right.position)
  const buyers = [
    { as: 'guest', name: 'Guests', buyer: { kind: 'guest' } as const },
    ...groups.map(({ id, code, name }) => ({
      as: `group:${code}`,
      name,
      buyer: { kind: 'group', group: id } as const,
    })),
  ]
  const isElse = !buyers.some((each) => each.as === as)
  const columns = isElse ? [{ as, name: buyerName, buyer: buyerContext.buyer }, ...buyers] : buyers
  const counts: BranchCounts[] = []
  // Whoever is kept from nothing sees what all of them see.
  let open: BranchCounts | null = null
  for (const { buyer } of columns) {
    const pricingContext = pricingContextOf(prepared, { ...buyerContext, buyer })
    const isOpen = isUnrestricted(pricingContext)
    const branches: BranchCounts = (isOpen && open) || (await countBranches(prepared, pricingContext))
    if (isOpen) open = branches
    counts.push(branches)
  }
  return {
    gates: [...store.channel.values()]
      .filter(({ status }) => status === 'active')
      .sort((left, right) => left.position - right.position)
      .map(({ code, name, gate }) => ({ code, name, gate })),
    columns: columns.map(({ as: code, name }) => ({ as: code, name })),
    rows: inTreeOrder(store.category).map(({ category: { id, code, name }, depth }) => ({
      code,
      name,
      depth,
      cells: counts.map((branches) => branches.get(id) ?? NONE),
    })),
  }
}

const NONE: AccessCell = { all: 0, see: 0, price: 0, buy: 0, quote: 0 }

type BranchCounts = ReadonlyMap<string, AccessCell>

const COUNTS = new Remembered<BranchCounts>('access-counts')

function countBranches(
  prepared: RequestContext['prepared'],
  pricingContext: PricingContext,
): Promise<BranchCounts> {
  return COUNTS.of({ prepared }, wordOf(pricingContext), async () => {
    const counts = new Map<string, { -readonly [Field in keyof AccessCell]: AccessCell[Field] }>()
    const slices = new Slices()
    for (const { number, branches } of await soldVariants(prepared)) {
      if (slices.isDue()) await slices.rest()
      const { see, seePrice, buy, quote } = findRights(prepared, pricingContext, number)
      for (const id of branches) {
        let cell = counts.get(id)
        if (!cell) counts.set(id, (cell = { ...NONE }))
        cell.all += 1
        cell.see += Number(see)
        cell.price += Number(seePrice)
        cell.buy += Number(buy)
        cell.quote += Number(quote)
      }
    }
    return counts
  })
}
