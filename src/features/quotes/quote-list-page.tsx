'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { TypedWord } from '@/ui/frame/typed-word'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import type { QuoteListView } from './load-quote-list'
import { type QuoteListShown, quoteListHref, type QuotesShown } from './quote-filter'

/** What buyers asked a price for: first what is still to be settled. */
export function QuoteListPage({
  view,
  states,
}: {
  readonly view: QuoteListView
  readonly states: readonly (readonly [value: QuotesShown, name: string])[]
}) {
  const { shown, rows, waiting, offered, older, exact } = view
  const { href } = useFrame()
  const router = useRouter()
  const show = (change: Partial<QuoteListShown>) =>
    router.push(href(quoteListHref({ ...shown, before: null, ...change })))
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Quotes">
      <h1 className="inline text-xl leading-7 font-semibold">Quotes</h1>
      <span className="pl-3 text-soft">
        {waiting === 0 ? 'Nothing waits for you' : `${waiting} ${waiting === 1 ? 'waits' : 'wait'} for you`},{' '}
        {offered} for the buyer.{' '}
        <VantageLink href="/desk" className="link-name">
          Begin one at the desk
        </VantageLink>
      </span>
      <p className="flex flex-wrap items-baseline gap-x-1.5 gap-y-2 pt-2 text-base text-soft">
        Show
        <select
          aria-label="Which quotes"
          className="[field-sizing:content] bg-transparent word text-base-content"
          value={shown.show}
          onChange={(event) => show({ show: event.target.value as QuotesShown })}
        >
          <option value="open">{`what is not settled (${waiting + offered})`}</option>
          <option value="waiting">{`what waits for us (${waiting})`}</option>
          <option value="all">all quotes</option>
          <optgroup label="By state">
            {states.map(([value, name]) => (
              <option key={value} value={value}>
                {name.toLowerCase()}
              </option>
            ))}
          </optgroup>
        </select>
        of
        <TypedWord
          key={`buyer ${shown.buyer}`}
          label="Buyer or number"
          value={shown.buyer}
          placeholder="every buyer"
          width={12}
          onDone={(buyer) => show({ buyer })}
        />
      </p>
      {exact !== null && (
        <p className="pt-2">
          <VantageLink href={`/quotes/${exact}`} className="link-name">
            Open quote Q-{exact}
          </VantageLink>
        </p>
      )}
      {rows.length === 0 ? (
        <p className="max-w-2xl pt-4">
          {shown.show === 'all' && shown.buyer === ''
            ? 'Nobody has asked for a quote yet. Who may ask, and for what, is said by access rules: “Sell or quote” and “Quote only”.'
            : 'No quote is like that. '}
          {!(shown.show === 'all' && shown.buyer === '') && (
            <button type="button" className="link-name" onClick={() => show({ show: 'all', buyer: '' })}>
              Show all quotes
            </button>
          )}
        </p>
      ) : (
        <table className="mt-3 w-full max-w-5xl">
          <thead>
            <tr className="border-b border-base-content text-left text-soft">
              {['Number', 'Asked', 'Buyer', 'State', 'Needed by', 'Stands until'].map((title) => (
                <th key={title} className="py-1 pr-4 font-normal">
                  {title}
                </th>
              ))}
              <th className="py-1 pr-4 text-right font-normal">Items</th>
              <th className="py-1 text-right font-normal">Offered</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.number} className="border-b border-dotted border-base-300">
                <th scope="row" className="py-1.5 pr-4 text-left font-semibold">
                  <VantageLink href={`/quotes/${row.number}`} className="link-name">
                    {row.name}
                  </VantageLink>
                </th>
                <td className="py-1.5 pr-4 text-soft">{row.when}</td>
                <td className="py-1.5 pr-4">
                  {row.buyerHref === null ? (
                    row.buyer
                  ) : (
                    <VantageLink href={row.buyerHref} className="link-name">
                      {row.buyer}
                    </VantageLink>
                  )}
                </td>
                <td
                  className={`py-1.5 pr-4 ${row.isWaiting ? 'font-semibold text-warning-content' : 'text-soft'}`}
                >
                  {row.state}
                </td>
                <td className="py-1.5 pr-4">{row.neededBy}</td>
                <td className="py-1.5 pr-4">{row.until}</td>
                <td className="py-1.5 pr-4 text-right tabular-nums">{row.lines}</td>
                <td className="py-1.5 text-right font-semibold tabular-nums">{row.total}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {older !== null && (
        <p className="pt-3">
          <VantageLink href={quoteListHref({ ...shown, before: older })} className="link-name">
            Older quotes
          </VantageLink>
        </p>
      )}
    </section>
  )
}
