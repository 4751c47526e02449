/** Stock of one variant, as its product's sheet shows it. */
export interface StockRow {
  readonly sku: string
  readonly name: string
  /** On the shelf; `null` where it is not counted. */
  readonly onHand: string | null
  /** Promised to orders that have not been sent. */
  readonly reserved: string
  /** What can still be ordered; `null` where it is not counted. */
  readonly available: string | null
}

/** One thing that moved stock. */
export interface StockLine {
  readonly id: number
  readonly when: string
  readonly author: string
  readonly sku: string
  readonly what: string
}

export interface StockView {
  readonly rows: readonly StockRow[]
  /** The latest first. */
  readonly lines: readonly StockLine[]
  /** What becomes of an order for more than there is. */
  readonly backOrder: boolean
}
