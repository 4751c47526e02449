import type { OrderStepKind } from '@/core/order/order-event'
import type { QuoteStepKind } from '@/core/quote/quote-event'

/** What a mail tells of, as data: its words are made when it is sent. `to` is who reads it. */
export type Letter =
  | { readonly kind: 'order-placed'; readonly order: number; readonly to: 'buyer' | 'merchant' }
  /** `event` is how many steps had been taken before. */
  | {
      readonly kind: 'order-step'
      readonly order: number
      readonly step: OrderStepKind
      readonly event: number
    }
  | { readonly kind: 'quote-asked'; readonly quote: number; readonly to: 'buyer' | 'merchant' }
  | {
      readonly kind: 'quote-step'
      readonly quote: number
      readonly step: QuoteStepKind
      readonly event: number
      readonly to: 'buyer' | 'merchant'
    }
  /** An offer that ends soon. */
  | { readonly kind: 'quote-ending'; readonly quote: number; readonly until: string }
  /** An order that somebody of the account has to let through, and what became of it. */
  | {
      readonly kind: 'approval'
      readonly request: number
      readonly said: 'asked' | 'ordered' | 'turned-down'
    }
  /** A draft that was to be published by itself and was not; `due` in epoch milliseconds, `failure` as the draft keeps it. */
  | { readonly kind: 'not-published'; readonly draft: string; readonly due: number; readonly failure: string }
  /** The link that lets one of the merchant's people set their password. */
  | {
      readonly kind: 'set-password'
      readonly name: string
      readonly word: string
      readonly why: 'lost' | 'invited'
    }
  /** The link that lets somebody into the shop, or set a password for it. */
  | { readonly kind: 'shop-link'; readonly word: string; readonly leads: 'in' | 'password' }

/** What a letter is about, as lists of mails name it. */
export function aboutOf(letter: Letter): string {
  if ('word' in letter) return 'sign-in'
  if ('order' in letter) return `order ${letter.order}`
  if ('draft' in letter) return `draft ${letter.draft}`
  return 'quote' in letter ? `quote ${letter.quote}` : `request ${letter.request}`
}

/** Whether whoever reads it could come in with it: such a mail is not kept once it is sent. */
export function letsIn(letter: Letter): boolean {
  return 'word' in letter
}
