import type { Status } from '../issue/issue'

/** Variants that are priced together, wherever in the catalogue they are. */
export interface PriceFamily {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly status: Status
}
