import { formatMoney } from '@/ui/format/amount'
import type { ShopMoney, ShopPrice } from './shop-view'

const HIDDEN = {
  none: 'Price on request',
  quote: 'Price by quote',
  'sign-in': 'Sign in for the price',
  'not-shown': 'Price not shown',
} as const

interface PriceTagProps {
  readonly price: ShopPrice
  readonly money: ShopMoney
  readonly from?: boolean
  readonly large?: boolean
}

/** What the visitor pays, with the price it is compared with crossed out beside it where that is higher. */
export function PriceTag({ price, money, from = false, large = false }: PriceTagProps) {
  if (price.own === null) return <span className="text-soft">{HIDDEN[price.hidden ?? 'none']}</span>
  const text = (amount: NonNullable<ShopPrice['own']>) => formatMoney(amount, money.currency, money.digits)
  return (
    <span className="inline-flex flex-col">
      <span className="inline-flex flex-wrap items-baseline gap-x-2">
        <span
          className={large ? 'text-3xl font-semibold' : 'text-base font-semibold'}
          data-testid="own-price"
        >
          {from && <span className="text-sm font-normal text-soft">from </span>}
          {text(price.own)}
        </span>
        {price.was !== null && (
          <span className="text-soft">
            <span className="sr-only">instead of </span>
            <s data-testid="was-price">{text(price.was)}</s>
          </span>
        )}
        {price.withTax !== null && (
          <span className="text-sm font-normal text-soft" data-testid="with-tax">
            {text(price.withTax)} {money.words.gross}
          </span>
        )}
      </span>
      {price.perUnit !== null && (
        <span className="block text-xs text-soft" data-testid="per-unit">
          {formatMoney(price.perUnit.amount, money.currency, money.minorDigits)} per {price.perUnit.per}
        </span>
      )}
    </span>
  )
}
