import 'server-only'

/** What a card payment comes to. */
export type CardAnswer =
  | { readonly ok: true }
  /** The bank says no. */
  | { readonly ok: false; readonly code: 'declined' }
  /** The bank does not answer: nobody knows, so nothing counts as paid. */
  | { readonly ok: false; readonly code: 'no-answer' }

/** Cards that fail, by their last four digits, so that what happens then can be looked at. */
const FAILING: Readonly<Record<string, 'declined' | 'no-answer'>> = {
  '0002': 'declined',
  '0004': 'no-answer',
}

/**
 * Stands in for a payment service: nothing is charged, and nothing of the card is kept. `number` holds 12 to 19 digits, spaces
 * between them as they were typed.
 */
export function askForCard(number: string): CardAnswer {
  const code = FAILING[number.replace(/\s+/g, '').slice(-4)]
  return code === undefined ? { ok: true } : { ok: false, code }
}
