/** What a buyer reads when a card brings no money. */
export const CARD_SENTENCES = {
  declined: 'The card was declined. Nothing was ordered: try another card.',
  'no-answer': 'The bank did not answer. Nothing was ordered and nothing charged: try again.',
} as const

/** What is wrong with a card number that was typed; `null` where nothing is. */
export function findCardFault(typed: string): string | null {
  return /^\d{12,19}$/.test(typed.replace(/\s+/g, ''))
    ? null
    : 'A card number has 12 to 19 digits. Payments are simulated: any number works, save that one ending in 0002 is declined.'
}
