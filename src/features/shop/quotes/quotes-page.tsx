import Link from 'next/link'
import type { ShopQuotes } from './load-quotes'

/** What a visitor has asked a price for, and how it stands. */
export function QuotesPage({ quotes, older }: ShopQuotes) {
  return (
    <>
      <div className="flex flex-wrap items-baseline justify-between gap-4 pb-4">
        <h1 className="text-3xl leading-9 font-bold tracking-tight">Quotes</h1>
        <Link href="/shop/quotes/new" className="btn btn-primary btn-sm">
          Ask for a quote
        </Link>
      </div>
      {quotes.length === 0 && (
        <p className="max-w-2xl text-base">
          You have not asked for a quote yet. Ask where you need many of something, all at once, or something
          that has no price: we answer with prices for exactly that.
        </p>
      )}
      <ul>
        {quotes.map(({ number, name, when, state, isOpen, lines, total }) => (
          <li key={number} className="border-b border-base-300">
            <Link
              href={`/shop/quotes/${number}`}
              className="grid grid-cols-[1fr_auto] gap-x-4 py-3 text-base hover:bg-base-200 sm:grid-cols-[8rem_1fr_14rem_8rem]"
            >
              <span className="font-semibold">{name}</span>
              <span className="max-sm:order-last max-sm:text-soft">
                {when}, {lines} {lines === 1 ? 'item' : 'items'}
              </span>
              <span
                className={`max-sm:order-last max-sm:text-right ${isOpen ? 'font-semibold text-primary' : 'text-soft'}`}
              >
                {state}
              </span>
              <span className="text-right font-semibold tabular-nums">{total}</span>
            </Link>
          </li>
        ))}
      </ul>
      {older !== null && (
        <Link
          href={`/shop/quotes?before=${older}`}
          className="mt-4 inline-block underline underline-offset-2"
        >
          Older quotes
        </Link>
      )}
    </>
  )
}
