/** Things under the key of each, in their order. */
export function groupBy<Thing, Key>(
  things: Iterable<Thing>,
  keyOf: (thing: Thing) => Key,
): ReadonlyMap<Key, readonly Thing[]> {
  const groups = new Map<Key, Thing[]>()
  for (const thing of things) {
    const key = keyOf(thing)
    const known = groups.get(key)
    if (known) known.push(thing)
    else groups.set(key, [thing])
  }
  return groups
}
