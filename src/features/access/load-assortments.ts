import 'server-only'

import {
  type CompiledAssortment,
  compileAssortment,
  matchAssortment,
  holdsBranch,
} from '@/core/access/assortment'
import { inTreeOrder } from '@/core/catalogue/category'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Store } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import type { RequestContext } from '@/server/engine/request-context'
import { Remembered } from '@/server/engine/remembered'
import { soldVariants } from '@/server/engine/sold-variants'

/** Whose assortment it is. */
export interface AssortmentOwner {
  readonly kind: 'channel' | 'contract'
  readonly code: string
  readonly name: string
}

export interface AssortmentBranch {
  readonly id: string
  readonly name: string
  readonly depth: number
  /** What is set on the branch itself; `null` takes over what stands above it. */
  readonly own: boolean | null
  /** What the branch comes to by itself and those above it. */
  readonly holds: boolean
  /** How many of its variants are in, with the branches below. */
  readonly inside: number
  readonly all: number
}

/** A product whose categories do not agree. */
interface ManyPaths {
  readonly code: string
  readonly name: string
  readonly holds: boolean
  readonly through: string
}

export interface AssortmentsView {
  readonly owners: readonly (AssortmentOwner & { readonly isSet: boolean })[]
  readonly owner: AssortmentOwner | null
  readonly start: 'everything' | 'nothing'
  readonly branches: readonly AssortmentBranch[]
  /** Products and variants with a setting of their own. */
  readonly single: readonly {
    readonly kind: 'product' | 'variant'
    readonly id: string
    readonly label: string
    readonly holds: boolean
  }[]
  readonly manyPaths: readonly ManyPaths[]
  readonly inside: number
  readonly all: number
  readonly live: boolean
  /** The change set it is of. */
  readonly asOf: number
}

export async function loadAssortments(
  { prepared, live, view }: RequestContext,
  kind: string,
  code: string,
): Promise<AssortmentsView> {
  const { store } = prepared
  const owners = [
    ...[...store.channel.values()].map((each) => ({
      ...toOwner('channel', each),
      isSet: each.assortment !== null,
    })),
    ...[...store.contract.values()].map((each) => ({
      ...toOwner('contract', each),
      isSet: each.assortment !== null,
    })),
  ]
  const owner = owners.find((each) => each.kind === kind && each.code === code) ?? owners[0] ?? null
  const record = owner && [...store[owner.kind].values()].find((each) => each.code === owner.code)
  const assortment = record?.assortment ?? { start: 'everything' as const, include: [], exclude: [] }
  const compiled = compileAssortment(assortment)
  const counts = await countBranches(prepared, `${owner?.kind}/${owner?.code}`, compiled)
  const branches = inTreeOrder(store.category).map(({ category: { id, name }, depth }) => ({
    id,
    name,
    depth,
    own: compiled.categories.get(id) ?? null,
    holds: holdsBranch(compiled, store.category, id),
    inside: counts.inside.get(id) ?? 0,
    all: counts.all.get(id) ?? 0,
  }))
  return {
    owners,
    owner,
    start: assortment.start,
    branches,
    single: [
      ...[...compiled.products].map(([id, holds]) => ({
        kind: 'product' as const,
        id,
        label: store.product.get(id)?.name ?? id,
        holds,
      })),
      ...[...compiled.variants].map(([id, holds]) => ({
        kind: 'variant' as const,
        id,
        label: store.variant.get(id)?.sku ?? id,
        holds,
      })),
    ],
    manyPaths: compiled.categories.size === 0 ? [] : manyPaths(store, compiled),
    inside: counts.total,
    all: counts.everything,
    live,
    asOf: view.asOf,
  }
}

function toOwner(
  kind: AssortmentOwner['kind'],
  { code, name }: { readonly code: string; readonly name: string },
): AssortmentOwner {
  return { kind, code, name }
}

interface Counts {
  readonly inside: ReadonlyMap<string, number>
  readonly all: ReadonlyMap<string, number>
  readonly total: number
  readonly everything: number
}

const COUNTS = new Remembered<Counts>('assortment-counts')

function countBranches(
  prepared: PreparedStore,
  owner: string,
  compiled: CompiledAssortment,
): Promise<Counts> {
  const { store } = prepared
  return COUNTS.of({ prepared }, owner, async () => {
    const inside = new Map<string, number>()
    const all = new Map<string, number>()
    let total = 0
    const sold = await soldVariants(prepared)
    const slices = new Slices()
    for (const { variant, product, branches } of sold) {
      if (slices.isDue()) await slices.rest()
      const item = { variant: variant.id, product: product.id, filedUnder: product.categories }
      const { holds } = matchAssortment(compiled, store.category, item)
      total += Number(holds)
      for (const id of branches) {
        all.set(id, (all.get(id) ?? 0) + 1)
        if (holds) inside.set(id, (inside.get(id) ?? 0) + 1)
      }
    }
    return { inside, all, total, everything: sold.length }
  })
}

const MOST_TOLD = 40

/** Products in several categories of which some are in and some are not. */
function manyPaths(store: Store, compiled: CompiledAssortment): readonly ManyPaths[] {
  const found: ManyPaths[] = []
  for (const product of store.product.values()) {
    if (product.categories.length < 2 || product.status !== 'active') continue
    const paths = product.categories.map((id) => ({
      name: store.category.get(id)?.name ?? id,
      holds: holdsBranch(compiled, store.category, id),
    }))
    if (new Set(paths.map(({ holds }) => holds)).size < 2) continue
    const item = { variant: '', product: product.id, filedUnder: product.categories }
    const { holds } = matchAssortment(compiled, store.category, item)
    const through = paths
      .filter((path) => path.holds)
      .map(({ name }) => name)
      .join(', ')
    found.push({ code: product.code, name: product.name, holds, through })
    if (found.length === MOST_TOLD) break
  }
  return found
}
