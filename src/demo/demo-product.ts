/** A variant: the end of its SKU, its options in the order of the axes, and what it sets for itself. */
type DemoVariant = readonly [
  suffix: string,
  options: readonly string[],
  own?: {
    readonly price?: string
    readonly cost?: string
    readonly rrp?: string
    readonly gbp?: string
    readonly kg?: string
  },
]

/** A product of the made-up merchant, in euro without tax. */
export interface DemoProduct {
  readonly code: string
  readonly name: string
  readonly picture: string
  /** Codes of its categories, the first one first. */
  readonly in: readonly string[]
  readonly about: string
  readonly unit?: string
  readonly price?: string
  readonly cost?: string
  readonly rrp?: string
  /** Its base price in sterling, where it has one of its own. */
  readonly gbp?: string
  readonly kg?: string
  readonly has?: Readonly<Record<string, string>>
  /** No more can be ordered than there is. */
  readonly whileStocksLast?: true
  /** Names of the axes its variants differ in; none when there is one variant. */
  readonly by?: readonly string[]
  readonly variants?: readonly DemoVariant[]
}
