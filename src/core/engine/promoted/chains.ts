import { sharedMemory } from '../../maps/shared-memory'
import { closedBy } from '../../promotions/closed-by'
import type { PreparedStore } from '../context/prepared-store'
import type { ItemPromotion, ItemPromotions } from './item-promotions'

/** Several promotions on the same items, in their order. */
export interface Chain {
  readonly held: readonly ItemPromotion[]
  /** Where those of one priority begin, and behind the last where they end. */
  readonly ranks: readonly number[]
  /** By position, which of the others keep each off what they have taken: a bit for each. */
  readonly closers: readonly number[]
}

/** As many promotions as there are bits in a small integer. */
export const MOST_CHAINED = 30

/** For items that are filed alike, the promotions that look at nothing else: by signature, the position of their chain. */
interface Chains {
  readonly chainOf: Int32Array
  /** The first one is empty. */
  readonly chains: readonly Chain[]
}

/** Made once for promotions that hold together, as long as the prepared store. */
const CHAINS = sharedMemory('promotion-chains', () => new WeakMap<PreparedStore, Map<string, Chains>>())
const MOST_KEPT = 32

export function chainsOf({ prepared, inOrder }: ItemPromotions): Chains {
  const kept = CHAINS.get(prepared) ?? new Map<string, Chains>()
  CHAINS.set(prepared, kept)
  const filed = inOrder.filter(({ isFiled }) => isFiled)
  const key = filed.map(({ promotion, key: own }) => `${promotion.id}/${own}`).join()
  const known = kept.get(key)
  if (known) return known
  if (kept.size >= MOST_KEPT) kept.clear()
  const made = makeChains(prepared, filed)
  kept.set(key, made)
  return made
}

function makeChains({ index }: PreparedStore, filed: readonly ItemPromotion[]): Chains {
  const chains: Chain[] = [toChain([])]
  const known = new Map<string, number>([['', 0]])
  const chainOf = new Int32Array(index.variantSignatures)
  for (let signature = 0; signature < index.variantSignatures; signature += 1) {
    const first = index.signatureStarts[signature] as number
    const places = [...filed.keys()].filter((at) => filed[at]?.holds(first))
    const key = places.join()
    let chain = known.get(key)
    if (chain === undefined) {
      known.set(key, (chain = chains.length))
      chains.push(toChain(places.map((at) => filed[at] as ItemPromotion)))
    }
    chainOf[signature] = chain
  }
  return { chainOf, chains }
}

function toChain(held: readonly ItemPromotion[]): Chain {
  const starts = [...held.keys()].filter((at) => held[at - 1]?.promotion.rank !== held[at]?.promotion.rank)
  const closers = held.map(({ promotion }) =>
    held.reduce((bits, other, at) => (closedBy([other.promotion], promotion) ? bits | (1 << at) : bits), 0),
  )
  return { held, ranks: [...starts, held.length], closers }
}
