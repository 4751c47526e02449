import 'server-only'

import type { Gate } from '@/core/access/access'
import { distancesUp, inTreeOrder } from '@/core/catalogue/category'
import { findRights, isUnrestricted } from '@/core/engine/find-rights'
import type { Situation } from '@/core/engine/situation'
import { Slices } from '@/server/doors/slices'
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
export async function loadAccess({ prepared, standpoint, as, buyerName }: Outlook): Promise<AccessView> {
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
  const columns = isElse ? [{ as, name: buyerName, buyer: standpoint.buyer }, ...buyers] : buyers
  const slices = new Slices()
  let found: readonly Counted[] | null = null
  const counted = () => (found ??= countedVariants(prepared))
  const counts: ReadonlyMap<string, AccessCell>[] = []
  // Whoever is kept from nothing sees what all of them see.
  let open: ReadonlyMap<string, AccessCell> | null = null
  for (const { buyer } of columns) {
    const situation = situationOf(prepared, { ...standpoint, buyer })
    const isOpen = isUnrestricted(situation)
    const branches: ReadonlyMap<string, AccessCell> =
      (isOpen && open) || (await countBranches(prepared, situation, counted, slices))
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

/** How many variants are looked at between two looks at the clock. */
const VARIANTS_A_STEP = 500

const NONE: AccessCell = { all: 0, see: 0, price: 0, buy: 0, quote: 0 }

interface Counted {
  readonly number: number
  /** The branches it is in or below, with every branch above. */
  readonly branches: readonly string[]
}

/** Every variant that is there to be sold with its branches, found once for all columns. */
function countedVariants({ store, index }: Outlook['prepared']): readonly Counted[] {
  const branchesOf = new Map<string, readonly string[]>()
  const counted: Counted[] = []
  for (let number = 0; number < index.variantCount; number += 1) {
    const variant = store.variant.get(index.items[number] as string)
    const product = store.product.get(variant?.product ?? '')
    if (variant?.status !== 'active' || product?.status !== 'active') continue
    let branches = branchesOf.get(product.id)
    if (!branches) {
      branches = [...distancesUp(store.category, product.categories).keys()]
      branchesOf.set(product.id, branches)
    }
    counted.push({ number, branches })
  }
  return counted
}

/** Kept as long as what holds for the buyer, which goes with every change of the store. */
const COUNTS = new WeakMap<Situation, ReadonlyMap<string, AccessCell>>()

async function countBranches(
  prepared: Outlook['prepared'],
  situation: Situation,
  counted: () => readonly Counted[],
  slices: Slices,
): Promise<ReadonlyMap<string, AccessCell>> {
  const known = COUNTS.get(situation)
  if (known) return known
  const branches = new Map<string, { -readonly [Field in keyof AccessCell]: AccessCell[Field] }>()
  for (const { number, branches: reached } of counted()) {
    if (number % VARIANTS_A_STEP === 0) await slices.rest()
    const { see, seePrice, buy, quote } = findRights(prepared, situation, number)
    for (const id of reached) {
      let cell = branches.get(id)
      if (!cell) branches.set(id, (cell = { ...NONE }))
      cell.all += 1
      cell.see += Number(see)
      cell.price += Number(seePrice)
      cell.buy += Number(buy)
      cell.quote += Number(quote)
    }
  }
  COUNTS.set(situation, branches)
  return branches
}
