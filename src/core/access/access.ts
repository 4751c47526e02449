import type { Status } from '../issue/issue'
import type { Rule } from '../rules/rule'

/** What stands before a channel. */
export const GATES = ['open', 'sign-in', 'sign-in-prices', 'sign-in-buy', 'passcode'] as const
export type Gate = (typeof GATES)[number]

/** What a rule lets a buyer do with what it is for, the most restrictive last. */
export const EFFECTS = ['show', 'buy-or-quote', 'no-buying', 'quote', 'no-price', 'hide'] as const
export type AccessEffect = (typeof EFFECTS)[number]

/** Where the direct link to a hidden page leads. */
export type Landing = 'message' | 'sign-in' | 'contact'

/** Who may see, see the price of, buy or ask for a quote on what. */
export interface AccessRule extends Rule {
  readonly effect: AccessEffect
  readonly landing: Landing
  /** What the page a hidden one leads to says; empty for the shop's own words. */
  readonly message: string
}

/** A word given to a closed circle. */
export interface Passcode {
  readonly id: string
  readonly code: string
  readonly name: string
  /** What is typed, in any case. */
  readonly word: string
  /** Id of the one channel it opens; `null` is every one. */
  readonly channel: string | null
  /** Local dates in the store's time zone, the end outside; `null` is open. */
  readonly from: string | null
  readonly to: string | null
  /** Whether it shows everything, whatever rules say, and lets nobody buy. */
  readonly isReview: boolean
  readonly status: Status
}

/** What a buyer may do with an item. */
export interface Rights {
  readonly see: boolean
  readonly seePrice: boolean
  readonly buy: boolean
  readonly quote: boolean
}

export const ALL_RIGHTS: Rights = { see: true, seePrice: true, buy: true, quote: false }

export function rightsOf(effect: AccessEffect): Rights {
  switch (effect) {
    case 'show':
      return ALL_RIGHTS
    case 'buy-or-quote':
      return { ...ALL_RIGHTS, quote: true }
    case 'no-buying':
      return { see: true, seePrice: true, buy: false, quote: false }
    case 'quote':
      return { see: true, seePrice: false, buy: false, quote: true }
    case 'no-price':
      return { see: true, seePrice: false, buy: false, quote: false }
    case 'hide':
      return { see: false, seePrice: false, buy: false, quote: false }
  }
}

export function isStricter(left: AccessEffect, right: AccessEffect): boolean {
  return EFFECTS.indexOf(left) > EFFECTS.indexOf(right)
}
