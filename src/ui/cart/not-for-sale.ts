import type { Answer } from '@/core/engine/explain/trace'

/** What is said where something cannot be bought; `null` where it can. */
export function notForSale({
  buy,
  quote,
  because,
}: Pick<Answer, 'buy' | 'quote' | 'because'>): string | null {
  if (buy) return null
  if (quote) return 'Price on request. Ask us for a quote.'
  switch (because?.code) {
    case 'gate':
      return 'Sign in to buy this.'
    case 'review':
      return 'This passcode is for viewing only.'
    case 'no-price':
      return 'There is no price for this yet. Please ask us.'
    default:
      return 'This item is not available to you.'
  }
}
