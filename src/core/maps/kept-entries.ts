/** A map with only those entries of another whose keys are kept. */
export function keptEntries<Value>(
  all: ReadonlyMap<string, Value>,
  isKept: (value: Value, key: string) => boolean,
): ReadonlyMap<string, Value> {
  return new Map([...all].filter(([key, value]) => isKept(value, key)))
}
