/** Whom a price is agreed with: the parties of a contract, or one account by itself. */
export interface AgreedWith {
  readonly kind: 'contract' | 'account'
  readonly id: string
}
