/** A map with the values of another as something makes of them: each made when it is asked for, once for each value. */
export class MappedValues<Value extends object> implements ReadonlyMap<string, Value> {
  /** `made` keeps what was made, for as long as the value it was made of. */
  constructor(
    readonly below: ReadonlyMap<string, Value>,
    readonly make: (value: Value) => Value,
    readonly made: WeakMap<Value, Value>,
  ) {}

  get size(): number {
    return this.below.size
  }

  get(key: string): Value | undefined {
    const value = this.below.get(key)
    return value && this.of(value)
  }

  has(key: string): boolean {
    return this.below.has(key)
  }

  keys(): MapIterator<string> {
    return this.below.keys() as MapIterator<string>
  }

  *values(): MapIterator<Value> {
    for (const value of this.below.values()) yield this.of(value)
  }

  *entries(): MapIterator<[string, Value]> {
    for (const [key, value] of this.below) yield [key, this.of(value)]
  }

  [Symbol.iterator](): MapIterator<[string, Value]> {
    return this.entries()
  }

  forEach(each: (value: Value, key: string, map: ReadonlyMap<string, Value>) => void): void {
    for (const [key, value] of this.entries()) each(value, key, this)
  }

  private of(value: Value): Value {
    const known = this.made.get(value)
    if (known) return known
    const made = this.make(value)
    this.made.set(value, made)
    return made
  }
}
