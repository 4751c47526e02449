import type { Decimal } from '../decimal/decimal'
import type { Rule } from '../rules/rule'

/** What a proof says of each buyer and item it is about. */
export const CLAIMS = [
  'price-is',
  'price-at-most',
  'price-at-least',
  'promoted-at-most',
  'off-base-at-least',
  'margin-at-least',
  'average-margin-at-least',
  'not-above-public',
  'never-seen',
  'price-never-seen',
  'never-bought',
  'always-seen',
  'always-bought',
  'least-is',
  'most-is',
  'multiple-is',
  'tax-is',
] as const
export type ClaimKind = (typeof CLAIMS)[number]

/** Whether a claim tells what is left of a price, and so what something costs. */
export function isClaimOfCosts(claim: ClaimKind): boolean {
  return claim === 'margin-at-least' || claim === 'average-margin-at-least'
}

/** What the value of a claim is; claims that are not here have none. */
export const CLAIM_VALUES: Readonly<Partial<Record<ClaimKind, 'money' | 'percent' | 'quantity'>>> = {
  'price-is': 'money',
  'price-at-most': 'money',
  'price-at-least': 'money',
  'promoted-at-most': 'money',
  'off-base-at-least': 'percent',
  'margin-at-least': 'percent',
  'average-margin-at-least': 'percent',
  'least-is': 'quantity',
  'most-is': 'quantity',
  'multiple-is': 'quantity',
  'tax-is': 'percent',
}

/**
 * What a merchant wants to stay true, whatever anybody changes. Its audience and scope are whom and what it is about; it is
 * asked while its schedule holds, in the places it names.
 */
export interface Proof extends Rule {
  readonly claim: ClaimKind
  /** An amount, a percentage or a quantity, as the claim wants; `null` for one that has none. */
  readonly value: Decimal | null
  /** ISO 4217, of an amount: who pays in it is asked in it. `null` is the store's. */
  readonly currency: string | null
  /** How many are bought. */
  readonly quantity: Decimal
  /** Whether a publication that breaks it is stopped, or only told of. */
  readonly isBlocking: boolean
  /** For whoever asks later. */
  readonly reason: string
}
