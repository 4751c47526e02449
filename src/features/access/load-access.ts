import 'server-only'

import type { Gate } from '@/core/access/access'
import { inTreeOrder, pathToRoot } from '@/core/catalogue/category'
import { findRights } from '@/core/engine/find-rights'
import type { Situation } from '@/core/engine/situation'
import { type Outlook, situationOf } from '@/server/engine/look-from'

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
export function loadAccess({ prepared, standpoint, as, buyerName }: Outlook): AccessView {
  const { store, index } = prepared
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
  const columns = isElse ? [{ as, name: buyerName, buyer: standpoint.buyer }, ...buyers] : buyers
  const counts = columns.map(({ buyer }) =>
    countBranches(prepared, situationOf(prepared, { ...standpoint, buyer }), index.variantCount),
  )
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

function countBranches(
  prepared: Outlook['prepared'],
  situation: Situation,
  variantCount: number,
): ReadonlyMap<string, AccessCell> {
  const { store, index } = prepared
  const branches = new Map<string, { -readonly [Field in keyof AccessCell]: AccessCell[Field] }>()
  for (let number = 0; number < variantCount; number += 1) {
    const variant = store.variant.get(index.items[number] as string)
    const product = store.product.get(variant?.product ?? '')
    if (variant?.status !== 'active' || product?.status !== 'active') continue
    const { see, seePrice, buy, quote } = findRights(prepared, situation, number)
    const reached = new Set(
      product.categories.flatMap((id) => pathToRoot(store.category, id).map((category) => category.id)),
    )
    for (const id of reached) {
      const cell = branches.get(id) ?? { ...NONE }
      branches.set(id, cell)
      cell.all += 1
      cell.see += Number(see)
      cell.price += Number(seePrice)
      cell.buy += Number(buy)
      cell.quote += Number(quote)
    }
  }
  return branches
}
