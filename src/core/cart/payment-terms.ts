import type { PricingContext } from '../engine/context/pricing-context'

/** The terms a buyer pays on: their first contract's that names some, else their account's; empty for who pays at once. */
export function paymentTermsOf({ contracts, terms }: PricingContext): string {
  const agreed = contracts.find(({ paymentTerms }) => paymentTerms !== '')
  return agreed?.paymentTerms ?? terms.account?.paymentTerms ?? ''
}
