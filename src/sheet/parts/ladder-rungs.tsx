import { VantageLink } from '@/ui/frame/vantage-link'
import type { LadderView } from '../effect/ladder'

/** A buyer's ladder drawn as one: a rung for each list, as wide as what it has a price for, dark where it decides. */
export function LadderRungs({ ladder, title }: { readonly ladder: LadderView; readonly title: string }) {
  const { rows, more, total, withoutPrice } = ladder
  const share = (count: number) => `${total > 0 ? (count / total) * 100 : 0}%`
  return (
    <>
      <div className="grid grid-cols-[1fr_4.5rem_6rem] border-b border-base-content pb-1 text-right">
        <h2 className="text-left font-semibold">{title}</h2>
        <span className="text-xs text-soft">decides</span>
        <span className="text-xs text-soft">has a price for</span>
      </div>
      <ol>
        {rows.map(({ id, name, href, about, decides, prices }, at) => (
          <li key={id ?? 'base'} className="grid grid-cols-[1.5rem_1fr_4.5rem_6rem] items-start text-right">
            <span
              className={`pt-1 text-left text-xs ${decides > 0 ? 'font-semibold text-primary' : 'text-soft'}`}
            >
              {at + 1}
            </span>
            <span className="border-x-2 border-bar pt-1 pb-2 text-left">
              <span className="block px-2">
                {href === null ? (
                  name
                ) : (
                  <VantageLink href={href} className="link-name">
                    {name}
                  </VantageLink>
                )}{' '}
                <span className="text-soft">{about}</span>
              </span>
              <span aria-hidden className="relative block h-1 bg-base-200">
                <span className="absolute inset-y-0 left-0 bg-bar" style={{ width: share(prices) }} />
                <span className="absolute inset-y-0 left-0 bg-primary" style={{ width: share(decides) }} />
              </span>
            </span>
            <span className={`pt-1 ${decides > 0 ? 'font-semibold' : 'text-soft'}`}>{decides}</span>
            <span className="pt-1 text-soft">{prices}</span>
          </li>
        ))}
      </ol>
      <p className="pt-1 text-xs text-soft">
        The first with a price decides.{more > 0 && ` ${more} more lists stand above the base price.`}
        {withoutPrice.length > 0 &&
          ` No price at all: ${withoutPrice
            .slice(0, 2)
            .map(({ product }) => product.name)
            .join(', ')}${withoutPrice.length > 2 ? ` and ${withoutPrice.length - 2} more` : ''}.`}
      </p>
    </>
  )
}
