import type { Decimal } from '@/core/decimal/decimal'
import type { ClaimKind, Proof } from '@/core/proofs/proof'
import type { Found, Verdict } from '@/core/proving/prove'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import { formatMoney, formatPercent } from './amount'
import { whatSentence, whenSentence, whereSentence, whoSentence } from './rule-phrases'

/** What each claim says between whom it is about and its value. */
export const CLAIM_PHRASES: Readonly<Record<ClaimKind, string>> = {
  'price-is': 'pay exactly',
  'price-at-most': 'pay at most',
  'price-at-least': 'pay at least',
  'promoted-at-most': 'pay, with promotions, at most',
  'off-base-at-least': 'pay below the base price by at least',
  'margin-at-least': 'leave a margin of at least',
  'average-margin-at-least': 'leave together a margin of at least',
  'not-above-public': 'never pay more than guests',
  'never-seen': 'never see',
  'price-never-seen': 'never see a price of',
  'never-bought': 'cannot buy',
  'always-seen': 'see every one of',
  'always-bought': 'can buy every one of',
  'least-is': 'buy at least',
  'most-is': 'buy at most',
  'multiple-is': 'buy in multiples of',
  'tax-is': 'pay a tax of',
}

/** Claims that name what they are about right behind themselves. */
export const CLAIMS_OF_ITEMS: ReadonlySet<ClaimKind> = new Set<ClaimKind>([
  'never-seen',
  'price-never-seen',
  'never-bought',
  'always-seen',
  'always-bought',
])

/** The value of a proof as a sentence says it; empty where it has none. */
export function proofValue({ claim, value, currency }: Proof, store: Store): string {
  if (value === null) return ''
  const home = getSettings(store).currency
  if (claim.startsWith('price-') || claim === 'promoted-at-most')
    return formatMoney(value, currency ?? home, priceDigitsOf(store, currency ?? home))
  if (claim === 'least-is' || claim === 'most-is' || claim === 'multiple-is') return value
  return `${value} %`
}

/** The whole proof as one sentence: "Fennmoor Honey Farm pay at most €21.65 for FR-BR-PF". */
export function proofSentence(proof: Proof, store: Store): string {
  const { audience, scope, place, schedule, claim, quantity } = proof
  const who = whoSentence(audience, store)
  const what = whatSentence(scope, store)
  const where = whereSentence(place, store)
  const when = whenSentence(schedule)
  const value = proofValue(proof, store)
  return [
    who.charAt(0).toUpperCase() + who.slice(1),
    quantity === '1' ? '' : `buying ${quantity}`,
    CLAIM_PHRASES[claim],
    value,
    CLAIMS_OF_ITEMS.has(claim) ? what : `for ${what}`,
    where === 'everywhere' ? '' : `in ${where}`,
    when === 'always' ? '' : when,
  ]
    .filter(Boolean)
    .join(' ')
}

export function foundText(found: Found, digits: (currency: string) => number): string {
  switch (found.kind) {
    case 'money':
      return found.amount === null
        ? 'no price'
        : formatMoney(found.amount, found.currency, digits(found.currency))
    case 'percent':
      return found.percent === null ? 'no margin' : formatPercent(found.percent)
    case 'quantity':
      return (found.quantity as Decimal | null) ?? 'no limit'
    case 'right':
      return found.has ? 'can' : 'cannot'
  }
}

/** What a verdict comes to, in a few words: "21.65", "6 of 6", "0 of 49". */
export function verdictText(
  { state, checked, held, found }: Verdict,
  digits: (currency: string) => number,
): string {
  if (state === 'idle') return 'not asked now'
  if (state === 'empty') return 'about nothing'
  if (found && found.kind !== 'right') return foundText(found, digits)
  return checked === 1 ? (held === 1 ? 'holds' : 'broken') : `${held} of ${checked}`
}
