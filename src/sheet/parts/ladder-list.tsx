import type { LadderView } from '../effect/ladder'
import { VantageLink } from '@/ui/frame/vantage-link'

/** A buyer's ladder as rungs, with how much each decides and how much it has a price for. */
export function LadderList({ ladder }: { readonly ladder: LadderView }) {
  const { rows, more, total } = ladder
  const share = (count: number) => `${total > 0 ? (count / total) * 100 : 0}%`
  return (
    <ol>
      {rows.map(({ id, name, href, about, decides, prices }, at) => (
        <li key={id ?? 'base'} className="border-b border-base-300 py-1">
          <p className="flex items-baseline gap-2">
            <span className={`w-4 text-xs ${decides > 0 ? 'font-semibold text-primary' : 'text-soft'}`}>
              {at + 1}
            </span>
            {href === null ? (
              <span className="min-w-0 grow">{name}</span>
            ) : (
              <VantageLink href={href} className="min-w-0 grow link-name">
                {name}
              </VantageLink>
            )}
            <span className={`tabular-nums ${decides > 0 ? 'font-semibold' : 'text-soft'}`}>{decides}</span>
          </p>
          <p className="flex justify-between gap-3 pl-6 text-xs text-soft">
            {about}
            <span className="whitespace-nowrap">prices {prices}</span>
          </p>
          <span aria-hidden className="ml-6 block h-1 bg-base-200">
            <span className="relative block h-full bg-bar" style={{ width: share(prices) }}>
              <span
                className="absolute inset-y-0 left-0 bg-primary"
                style={{ width: prices > 0 ? `${Math.min(100, (decides / prices) * 100)}%` : 0 }}
              />
            </span>
          </span>
        </li>
      ))}
      {more > 0 && <li className="py-1 text-soft">and {more} more lists above the base price</li>}
    </ol>
  )
}
