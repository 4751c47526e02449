import type { Decimal } from '../decimal/decimal'
import type { Issue } from '../issue/issue'
import type { PriceExpressionError } from '../price/price-expression'

/** Why an edit was not made: data, worded by the interface. Nothing was stored and nothing typed is lost. */
export type Refusal =
  | {
      readonly code: 'expression'
      readonly error: PriceExpressionError
      readonly typed: string
      readonly digits: number
    }
  /** The figure edited is not the one that was on the screen. */
  | { readonly code: 'changed-meanwhile'; readonly seen: Decimal | null; readonly current: Decimal | null }
  /** A record edited has been changed since it was read. */
  | {
      readonly code: 'stale'
      readonly label: string
      /** What differs: its value now and the one that was sent; `null` for one that is no plain text or number. */
      readonly fields: readonly {
        readonly field: string
        readonly current: string | null
        readonly submitted: string | null
      }[]
    }
  | { readonly code: 'invalid'; readonly issues: readonly Issue[] }
  | {
      readonly code: 'unknown'
      readonly what: string
      readonly value: string
      readonly nearest: string | null
    }
  | { readonly code: 'nothing-to-change' }
  /** It was to be undone, and has been put back by hand since. */
  | { readonly code: 'back-already'; readonly label: string }
  | { readonly code: 'disk-full' }
  /** It tells or sets a cost that whoever asks must not know, or reaches further than they work. */
  | { readonly code: 'out-of-reach'; readonly why: 'costs' | 'items'; readonly label: string }
  /** The store is changed by drafts, and this was to count at once. */
  | { readonly code: 'drafts-only' }
  /** It was to go into a draft that is published or discarded by now. */
  | { readonly code: 'no-such-draft'; readonly draft: string }
  /** The store could not be read any more. */
  | { readonly code: 'unreadable'; readonly why: string }
  /** Of many edits made together, the one that was refused; none was made. */
  | { readonly code: 'one-of-many'; readonly label: string; readonly because: Refusal }
  | { readonly code: 'past' }
  /** A price that comes about after the list: typing over it would not say what the list should hold. */
  | { readonly code: 'made-after-list'; readonly list: string; readonly why: 'converted' | 'adjusted' }
