import 'server-only'

import { sharedMemory } from '@/core/maps/shared-memory'
import type { RequestContext } from './request-context'

/** Beyond it the oldest are forgotten. */
const MOST_KEPT = 500

/**
 * What took long to find out about a prepared store, kept as long as that: a change makes another one. Who asks while it
 * is being found out waits for the same.
 */
export class Remembered<Value> {
  private readonly known: WeakMap<object, Map<string, Promise<Value>>>

  /** `name` is what it remembers, and of no other. */
  constructor(name: string) {
    this.known = sharedMemory(`remembered.${name}`, () => new WeakMap<object, Map<string, Promise<Value>>>())
  }

  /** `key` says everything else the answer depends on. */
  of(
    { prepared }: Pick<RequestContext, 'prepared'>,
    key: string,
    find: () => Promise<Value>,
  ): Promise<Value> {
    let kept = this.known.get(prepared)
    if (!kept) this.known.set(prepared, (kept = new Map()))
    const known = kept.get(key)
    if (known) return known
    const [oldest] = kept.keys()
    if (kept.size >= MOST_KEPT && oldest !== undefined) kept.delete(oldest)
    const found = find()
    kept.set(key, found)
    // What failed is tried again by whoever asks next.
    found.catch(() => kept.delete(key))
    return found
  }

  /** Whether it is found out already, or is being found out. */
  has({ prepared }: Pick<RequestContext, 'prepared'>, key: string): boolean {
    return this.known.get(prepared)?.has(key) ?? false
  }
}

const NUMBERS = sharedMemory('pricing-context-words', () => ({ of: new WeakMap<object, number>(), last: 0 }))

/** A word for a pricing context, the same for no other one: what holds for somebody, somewhere, for some time. */
export function wordOf(pricingContext: RequestContext['pricingContext']): string {
  let number = NUMBERS.of.get(pricingContext)
  if (number === undefined) NUMBERS.of.set(pricingContext, (number = NUMBERS.last += 1))
  return String(number)
}
