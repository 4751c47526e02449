import { formatPercent } from '@/ui/format/amount'
import type { TriedRule } from './rule-choices'

/** What a rule does to five products, at each of its quantities. */
export function TriedTable({ tried }: { readonly tried: Extract<TriedRule, { ok: true }> }) {
  const { rows, froms, count } = tried
  if (count === 0) return <p className="text-soft">It reaches nothing that has a price to start from.</p>
  return (
    <table className="w-full text-right">
      <thead>
        <tr className="border-b border-base-content text-xs">
          <th className="pb-1 text-left font-semibold">
            {rows.length < count ? `${rows.length} of ${count}` : count}, lowest margin first
          </th>
          <th className="pb-1 pl-3 font-semibold">Pay now</th>
          {froms.map((from) => (
            <th key={from} className="pb-1 pl-3 font-semibold">
              {from === '0' ? 'Then' : `From ${from}`}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ name, now, prices }) => (
          <tr key={name} className="border-b border-base-300">
            <td className="py-0.5 text-left">{name}</td>
            <td className="pl-3 text-soft">{now}</td>
            {prices.map(({ price, margin, isBelowCost }, at) => (
              <td key={at} className="pl-3 whitespace-nowrap">
                <b>{price}</b>{' '}
                {margin !== null && (
                  <span className={`text-xs ${isBelowCost ? 'font-semibold text-error' : 'text-soft'}`}>
                    {formatPercent(margin)}
                  </span>
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
