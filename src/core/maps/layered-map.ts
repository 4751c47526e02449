import { atOnce, eachInSteps, type Steps } from '../steps/steps'

/** A map is copied once this share of it would stand in the layer. */
const LARGEST_LAYER = 1 / 16
const SMALLEST_LAYER = 64

/**
 * A map with a few entries changed, without copying all of them: what is changed lies in a layer over the map
 * it began with. So one edit of a million lines costs what the edit costs.
 */
class LayeredMap<Value> implements ReadonlyMap<string, Value> {
  readonly size: number

  constructor(
    readonly below: ReadonlyMap<string, Value>,
    /** `null` for an entry that is gone. */
    readonly layer: ReadonlyMap<string, Value | null>,
  ) {
    let size = below.size
    for (const [key, value] of layer) size += Number(value !== null) - Number(below.has(key))
    this.size = size
  }

  get(key: string): Value | undefined {
    const changed = this.layer.get(key)
    return changed === undefined ? this.below.get(key) : (changed ?? undefined)
  }

  has(key: string): boolean {
    return this.get(key) !== undefined
  }

  *entries(): MapIterator<[string, Value]> {
    for (const entry of this.below) {
      const changed = this.layer.get(entry[0])
      if (changed === undefined) yield entry
      else if (changed !== null) yield [entry[0], changed]
    }
    for (const [key, value] of this.layer) if (value !== null && !this.below.has(key)) yield [key, value]
  }

  *keys(): MapIterator<string> {
    for (const [key] of this.entries()) yield key
  }

  *values(): MapIterator<Value> {
    for (const [, value] of this.entries()) yield value
  }

  [Symbol.iterator](): MapIterator<[string, Value]> {
    return this.entries()
  }

  forEach(each: (value: Value, key: string, map: ReadonlyMap<string, Value>) => void): void {
    for (const [key, value] of this.entries()) each(value, key, this)
  }
}

/**
 * A map with some entries set or, for `null`, gone. The map it is made from stays as it is.
 *
 * Holds  entries that were there keep their place, new ones come last in the order they are given.
 */
export function withChanges<Value>(
  map: ReadonlyMap<string, Value>,
  changes: readonly (readonly [key: string, value: Value | null])[],
): ReadonlyMap<string, Value> {
  return atOnce(withChangesInSteps(map, changes))
}

/** The same, in steps where the whole map is copied. */
export function* withChangesInSteps<Value>(
  map: ReadonlyMap<string, Value>,
  changes: readonly (readonly [key: string, value: Value | null])[],
): Steps<ReadonlyMap<string, Value>> {
  const below = map instanceof LayeredMap ? (map.below as ReadonlyMap<string, Value>) : map
  const before = map instanceof LayeredMap ? (map.layer as ReadonlyMap<string, Value | null>) : []
  const layer = new Map<string, Value | null>(before)
  yield* eachInSteps(changes, ([key, value]) => {
    // An entry that went and came back stands last, as in a map of its own.
    if (value === null && !below.has(key)) layer.delete(key)
    else layer.set(key, value)
  })
  if (layer.size <= Math.max(SMALLEST_LAYER, below.size * LARGEST_LAYER)) return new LayeredMap(below, layer)
  const whole = new Map<string, Value>()
  yield* eachInSteps(below, ([key, value]) => whole.set(key, value))
  yield* eachInSteps(layer, ([key, value]) => {
    if (value === null) whole.delete(key)
    else whole.set(key, value)
  })
  return whole
}

/**
 * What a map consists of, for whoever keeps something about the map below, which stays while layers come and go.
 *
 * Errors  `null` for a map without a layer.
 */
export function layersOf<Value>(
  map: ReadonlyMap<string, Value>,
): { readonly below: ReadonlyMap<string, Value>; readonly layer: ReadonlyMap<string, Value | null> } | null {
  return map instanceof LayeredMap ? (map as LayeredMap<Value>) : null
}
