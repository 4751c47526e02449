import { isSold } from '../catalogue/is-sold'
import type { PreparedStore } from '../engine/context/prepared-store'
import { eachInSteps, type Steps } from '../steps/steps'
import type { Comparison } from './buyer-classes'

/** Numbers side by side: of a whole catalogue typed; of a few plain, for which a buffer would cost more than it saves. */
export type Places = Int32Array | number[]

/** Room for some numbers. */
export function roomFor(count: number): Places {
  return count < FEW ? Array<number>(count).fill(0) : new Int32Array(count)
}

const FEW = 4096

/** Variants that are there in either of two stores, side by side; each has a place. */
export interface ItemPairs {
  /** Ids, by place. */
  readonly ids: readonly string[]
  /** Their numbers in each store, by place; −1 where a variant is not sold there. */
  readonly before: Places
  readonly after: Places
  /** Places of those that are sold in both, and are the same records in both. */
  readonly same: Places
  /** Places of all others. */
  readonly others: Places
}

/** Every variant there is on either side. */
export function* pairAll({ before, after }: Comparison): Steps<ItemPairs> {
  const ids = after.index.items.slice(0, after.index.variantCount)
  if (before.index !== after.index)
    yield* eachInSteps(Array(before.index.variantCount).keys(), (number) => {
      const id = before.index.items[number] as string
      if (!after.index.numberOf.has(id)) ids.push(id)
    })
  return yield* pair(before, after, ids)
}

/** Some variants, by their ids. */
export function pairSome({ before, after }: Comparison, ids: Iterable<string>): Steps<ItemPairs> {
  return pair(before, after, [...ids])
}

function* pair(before: PreparedStore, after: PreparedStore, ids: readonly string[]): Steps<ItemPairs> {
  const [then, now] = [roomFor(ids.length), roomFor(ids.length)]
  const [same, others] = [roomFor(ids.length), roomFor(ids.length)]
  let [sames, rest] = [0, 0]
  yield* eachInSteps(ids.keys(), (place) => {
    const id = ids[place] as string
    const [variant, product] = recordsOf(before, id)
    const [next, nextProduct] = recordsOf(after, id)
    const isSame = variant === next && product === nextProduct
    const wasThere = isSold(before.store, id)
    const isThere = isSame ? wasThere : isSold(after.store, id)
    then[place] = wasThere ? (before.index.numberOf.get(id) ?? -1) : -1
    now[place] = isThere ? (after.index.numberOf.get(id) ?? -1) : -1
    if (isSame && wasThere) same[sames++] = place
    else others[rest++] = place
  })
  return { ids, before: then, after: now, same: same.slice(0, sames), others: others.slice(0, rest) }
}

function recordsOf({ store }: PreparedStore, id: string) {
  const variant = store.variant.get(id)
  return [variant, variant && store.product.get(variant.product)] as const
}
