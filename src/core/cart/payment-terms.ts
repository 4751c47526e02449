import type { Situation } from '../engine/situation'

/** The terms a buyer pays on: their first contract's that names some, else their account's; empty for who pays at once. */
export function paymentTermsOf({ contracts, terms }: Situation): string {
  const agreed = contracts.find(({ paymentTerms }) => paymentTerms !== '')
  return agreed?.paymentTerms ?? terms.account?.paymentTerms ?? ''
}
