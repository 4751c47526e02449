import { ZERO } from '@/core/decimal/decimal'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import type { CartView } from './cart-view'

/** What a cart comes to. */
export function Sums({ view: { sums, currency, digits, untaxed } }: { readonly view: CartView }) {
  return (
    <>
      <dl className="grid grid-cols-[1fr_auto] border-t border-base-content">
        {sums.map(({ label, amount }) => {
          const isTotal = label === 'Total'
          return (
            <div key={label} className={`contents ${isTotal ? 'text-2xl font-bold' : 'text-base'}`}>
              <dt className={`py-1.5 ${isTotal ? '' : 'border-b border-base-300'}`}>{label}</dt>
              <dd
                className={`py-1.5 text-right tabular-nums ${isTotal ? '' : 'border-b border-base-300'}`}
                data-testid={`sum-${label}`}
              >
                {isTotal
                  ? formatMoney(amount, currency, digits)
                  : label === 'Delivery' && amount === ZERO
                    ? 'Free'
                    : formatAmount(amount, digits)}
              </dd>
            </div>
          )
        })}
      </dl>
      {untaxed && <p className="pt-2 text-soft">{untaxed}</p>}
    </>
  )
}
