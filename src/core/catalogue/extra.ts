import type { Decimal } from '../decimal/decimal'
import type { Status } from '../issue/issue'
import type { What } from '../predicates/what'

/** An optional paid addition to a product: assembly, branding. Price lists name it like a variant. */
export interface Extra {
  readonly id: string
  readonly code: string
  readonly name: string
  /** What it can be added to. */
  readonly scope: What
  /** For each piece of what it is added to, in the store's currency. */
  readonly basePrice: Decimal | null
  readonly cost: Decimal | null
  /** By currency; they win over conversion. */
  readonly ownPrices: Readonly<Record<string, Decimal>>
  readonly position: number
  readonly status: Status
}
