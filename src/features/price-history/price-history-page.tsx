import { PriceCurve } from '@/ui/chart/price-curve'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { PriceHistoryView } from './load-price-history'

const SPANS = [3, 12, 24] as const

/** What one buyer paid for one item, from prices as they were. */
export function PriceHistoryPage({
  view,
  marked,
  timeZone,
  vantage,
}: {
  readonly view: PriceHistoryView
  /** The fields of the vantage in the address, so that another item is looked at in the same way. */
  readonly vantage: readonly (readonly [name: string, value: string])[]
  readonly marked: number | null
  readonly timeZone: string
}) {
  const { sku, title, problem, buyer, quantity, steps, start, end, isWhole, then, prior, months } = view
  return (
    <div className="flex min-h-0 flex-1">
      <section className="min-h-0 min-w-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Price history">
        <h1 className="inline text-xl leading-7 font-semibold">What one buyer paid</h1>
        <span className="pl-3 text-soft">from prices as they were, computed anew for each day</span>
        <form className="flex flex-wrap items-baseline gap-2 pt-2 text-base" action="/price-history">
          {vantage.map(([name, value]) => (
            <input key={name} type="hidden" name={name} value={value} />
          ))}
          <input type="hidden" name="months" value={months} />
          <b>{buyer}</b> for
          <input
            name="sku"
            aria-label="SKU"
            aria-invalid={problem !== ''}
            defaultValue={sku}
            placeholder="SKU"
            className="w-40 bg-transparent word aria-[invalid=true]:border-error"
          />
          <span>
            {title && <b>{title}</b>}, buying <b>{quantity}</b>, over
          </span>
          {SPANS.map((span) => (
            <VantageLink
              key={span}
              href={`/price-history?sku=${encodeURIComponent(sku)}&months=${span}`}
              aria-current={span === months ? 'page' : undefined}
              className={span === months ? 'word' : 'link-name font-normal'}
            >
              {span} months
            </VantageLink>
          ))}
        </form>
        {problem && (
          <p role="alert" className="pt-1 text-error">
            {problem}
          </p>
        )}
        {steps.length > 0 && (
          <>
            <PriceCurve
              points={steps.map(({ since, height, price, cause }) => ({
                since,
                height,
                label: `${price}, ${cause}`,
              }))}
              start={start}
              end={end}
              marked={marked}
              timeZone={timeZone}
            />
            {!isWhole && (
              <p className="text-soft">
                The store changed more often than is told here: older steps are left out.
              </p>
            )}
            <table className="w-full" aria-label="Steps">
              <thead>
                <tr className="border-b border-base-content text-right">
                  <th className="py-1 text-left font-semibold">From</th>
                  <th className="py-1 pl-4 font-semibold">Days</th>
                  <th className="py-1 pl-4 font-semibold">Price</th>
                  <th className="py-1 pl-4 font-semibold">Change</th>
                  <th className="py-1 pl-6 text-left font-semibold">Because of</th>
                </tr>
              </thead>
              <tbody>
                {[...steps].reverse().map(({ since, day, days, price, change, cause, on }) => (
                  <tr key={since} className="border-b border-base-300 text-right">
                    <td className="py-1 text-left">
                      <VantageLink
                        href={`/price-history?sku=${encodeURIComponent(sku)}&months=${months}`}
                        lookOn={on}
                        className="link-name font-normal"
                      >
                        {day}
                      </VantageLink>
                    </td>
                    <td className="py-1 pl-4 text-soft">{days}</td>
                    <td className="py-1 pl-4 font-semibold">{price}</td>
                    <td className="py-1 pl-4 text-soft">{change}</td>
                    <td className="py-1 pl-6 text-left">{cause}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </section>
      <aside
        className="w-[272px] shrink-0 overflow-auto border-l border-base-300 bg-lifted px-4 pt-4 pb-8"
        aria-label="On a day"
      >
        {then ? (
          <>
            <h2 className="text-2xl leading-7 font-semibold">{then.price}</h2>
            <p className="font-semibold">
              is what {buyer} paid on {then.day}
            </p>
            <p className="text-soft">{then.cause}</p>
          </>
        ) : (
          <p className="text-soft">Choose a step, or a day above, to see what was paid then, and why.</p>
        )}
        {prior && (
          <section className="mt-5 border-t-2 border-accent pt-3">
            <h3 className="text-xs font-semibold">If a reduction is announced today</h3>
            <p className="pt-1">
              It stands beside the lowest public price of the 30 days before, <b>{prior.price}</b>, asked on{' '}
              {prior.since}.
            </p>
            <p className="pt-1 text-soft">
              Guests pay {prior.now} now,{' '}
              {prior.percent === '' ? 'no less than that' : `${prior.percent} against that`}. Directive
              98/6/EC, Art. 6a.
            </p>
          </section>
        )}
      </aside>
    </div>
  )
}
