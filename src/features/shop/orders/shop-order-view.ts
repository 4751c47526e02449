import type { Decimal } from '@/core/decimal/decimal'
import type { OrderDocument, OrderLine } from '@/core/order/order'

/** A line as its buyer sees it: what the merchant pays for it is not in it. */
export interface ShopOrderLine extends Pick<
  OrderLine,
  'sku' | 'name' | 'quantity' | 'unit' | 'perUnit' | 'net' | 'gross' | 'before' | 'promotions' | 'isGift'
> {
  /** Code of its product, where it is still shown to them. */
  readonly product: string | null
  readonly extras: readonly string[]
  readonly sent: Decimal
  readonly returned: Decimal
  readonly cancelled: Decimal
}

/** An order as its buyer sees it. */
export interface ShopOrder extends Pick<
  OrderDocument,
  | 'currency'
  | 'digits'
  | 'display'
  | 'address'
  | 'payment'
  | 'reference'
  | 'placedBy'
  | 'goods'
  | 'delivery'
  | 'paymentCharge'
  | 'taxes'
  | 'total'
> {
  readonly number: number
  readonly when: string
  readonly state: string
  readonly lines: readonly ShopOrderLine[]
  /** What was done with it that concerns the buyer, the first first. */
  readonly events: readonly { readonly when: string; readonly what: string }[]
  /** Its documents: what each is called, and what its address asks for. */
  readonly papers: readonly (readonly [name: string, query: string])[]
  /** With tax; zero where nothing was. */
  readonly credited: Decimal
  readonly due: Decimal
  /** Whether nothing of it is owed any more. */
  readonly isPaid: boolean
}

/** One of a buyer's orders in their list. */
export interface ShopOrderHead {
  readonly number: number
  readonly when: string
  readonly state: string
  readonly lines: number
  readonly due: string
}
