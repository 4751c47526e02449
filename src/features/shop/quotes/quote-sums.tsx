import { compare, type Decimal, subtract, ZERO } from '@/core/decimal/decimal'
import { formatMoney } from '@/ui/format/amount'
import type { QuoteSums, ShopQuoteView } from './shop-quote-view'

/** What the chosen lines come to, and what is saved by the offer. */
export function QuoteSumsList({ view, sums }: { readonly view: ShopQuoteView; readonly sums: QuoteSums }) {
  const { basis, words, currency, digits } = view
  const { goods, delivery, taxes, total, atTheirs } = sums
  const saved = atTheirs === null ? ZERO : subtract(atTheirs, goods[basis])
  const rows: readonly (readonly [label: string, amount: Decimal, look?: 'saved' | 'total'])[] = [
    ...(atTheirs === null || saved === ZERO ? [] : [['At your prices', atTheirs] as const]),
    ...(compare(saved, ZERO) > 0 ? [['You save', saved, 'saved'] as const] : []),
    [`Goods, ${words}`, goods[basis]],
    ['Delivery', delivery[basis]],
    ...(basis === 'net' ? taxes.map(({ label, amount }) => [label, amount] as const) : []),
    ['Total', total, 'total'],
    ...(basis === 'gross' ? taxes.map(({ label, amount }) => [label, amount] as const) : []),
  ]
  return (
    <dl className="border-t border-base-content">
      {rows.map(([label, amount, look]) => (
        <div
          key={label}
          className={`flex justify-between gap-4 border-b border-base-300 py-1.5 ${look === 'total' ? 'text-lg font-semibold' : ''}`}
        >
          <dt>{label}</dt>
          <dd
            data-testid={look === 'total' ? 'quote-total' : undefined}
            className={`tabular-nums ${look === 'saved' ? 'font-semibold text-primary' : ''}`}
          >
            {formatMoney(amount, currency, digits)}
          </dd>
        </div>
      ))}
    </dl>
  )
}
