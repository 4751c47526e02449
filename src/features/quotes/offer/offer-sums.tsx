import { compare, subtract, ZERO } from '@/core/decimal/decimal'
import { differencePercent } from '@/core/decimal/difference-percent'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import type { OfferFigures, QuoteView } from './offer-view'

/** What the offer comes to, beside their own prices, and what is earned by it. */
export function OfferSums({ view, figures }: { readonly view: QuoteView; readonly figures: OfferFigures }) {
  const { atTheirs, goods, delivery, taxes, total, earned, margin } = figures
  const { digits, basis, currency } = view
  if (goods === null || total === null)
    return <p className="text-soft">The sum stands here when every line has a quantity and a price.</p>
  const saved = atTheirs === null ? null : subtract(goods, atTheirs)
  const percent = atTheirs === null ? null : differencePercent(goods, atTheirs)
  const rows: readonly (readonly [label: string, amount: string, look?: 'soft' | 'bold' | 'total'])[] = [
    ...(atTheirs === null ? [] : [['At their prices', formatAmount(atTheirs, digits), 'soft'] as const]),
    ...(saved === null || saved === ZERO
      ? []
      : [
          [
            `${compare(saved, ZERO) < 0 ? 'Discount' : 'Above their prices'}${percent === null ? '' : `, ${formatPercent(percent)}`}`,
            formatAmount(saved, digits),
          ] as const,
        ]),
    ['Offer', formatAmount(goods, digits), 'bold'],
    ...(delivery === null || delivery === ZERO
      ? []
      : [['Delivery', formatAmount(delivery, digits)] as const]),
    ...(basis === 'net'
      ? taxes.map(({ label, amount }) => [label, formatAmount(amount, digits), 'soft'] as const)
      : []),
    [`Total in ${currency}`, formatAmount(total, digits), 'total'],
    ...(basis === 'gross'
      ? taxes.map(({ label, amount }) => [`includes ${label}`, formatAmount(amount, digits), 'soft'] as const)
      : []),
  ]
  return (
    <>
      <dl aria-label="Sums" className="tabular-nums">
        {rows.map(([label, amount, look]) => (
          <div
            key={label}
            className={`flex justify-between gap-4 py-1 ${
              look === 'total'
                ? 'border-y border-base-content text-base font-semibold'
                : 'border-b border-dotted border-base-300'
            } ${look === 'bold' ? 'font-semibold' : ''} ${look === 'soft' ? 'text-soft' : ''}`}
          >
            <dt>{label}</dt>
            <dd data-testid={look === 'total' ? 'offer-total' : undefined}>{amount}</dd>
          </div>
        ))}
        {earned !== null && (
          <div className="flex justify-between gap-4 py-1">
            <dt>
              {compare(earned, ZERO) < 0 ? 'We lose' : 'We earn'}{' '}
              <b className={compare(earned, ZERO) < 0 ? 'text-error' : ''}>{formatAmount(earned, digits)}</b>
            </dt>
            <dd className="font-semibold" data-testid="offer-margin">
              {margin === null ? '' : formatPercent(margin)}
            </dd>
          </div>
        )}
      </dl>
      {earned === null && <p className="py-1 text-soft">What is earned is not known: a cost is missing.</p>}
    </>
  )
}
