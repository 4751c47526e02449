'use client'

import { FileLinks } from '@/ui/format/file-links'
import { formatAmount } from '@/ui/format/amount'
import { ProductPicture } from '@/ui/format/product-picture'
import Link from 'next/link'
import { useState } from 'react'
import { QuoteDecision } from './quote-decision'
import { sumsOfChosen } from './quote-actions'
import { QuoteSumsList } from './quote-sums'
import type { ShopQuoteLine, ShopQuoteView } from './shop-quote-view'

/** One quote: what was asked for, what is offered, and what can be said to it. */
export function QuotePage({ view, isNew }: { readonly view: ShopQuoteView; readonly isNew: boolean }) {
  const { title, about, lines, until, left, promise, said, files, order, steps, hindrance } = view
  const first = lines.filter(({ insteadOf }) => insteadOf === null).map(({ position }) => position)
  const [chosen, setChosen] = useState<readonly number[]>(first)
  const [sums, setSums] = useState(view.sums)
  const mayChoose = steps.includes('accept')

  function choose(line: ShopQuoteLine, isTaken: boolean): void {
    // Of a line and what is offered instead of it only one is taken.
    const others = chosen.filter((at) => at !== line.position && !areEither(lines, at, line.position))
    const next = isTaken ? [...others, line.position].sort((a, b) => a - b) : others
    setChosen(next)
    if (next.length === 0) return setSums(null)
    void sumsOfChosen(view.number, next)
      .then((found) => setSums(found))
      .catch(() => setSums(null))
  }
  return (
    <>
      <p className="pb-1">
        <Link href="/shop/quotes" className="underline underline-offset-2">
          All quotes
        </Link>
      </p>
      <div className="flex flex-wrap items-start justify-between gap-x-8 pb-4">
        <div>
          <h1 className="text-3xl leading-9 font-bold tracking-tight">
            {isNew ? 'Thank you. We answer soon' : title}
          </h1>
          <p className="text-base text-soft">{about}</p>
        </div>
        <p className="text-right max-sm:text-left" data-testid="quote-state">
          <b className="block text-base">{until}</b>
          <span className="text-soft">{left}</span>
        </p>
      </div>
      <div className="grid items-start gap-x-14 gap-y-6 lg:grid-cols-[1fr_19rem]">
        <Lines view={view} chosen={chosen} onChoose={mayChoose ? choose : null} />
        <div>
          {sums && <QuoteSumsList view={view} sums={sums} />}
          {promise && <p className="pt-3 text-soft">{promise}</p>}
          {hindrance && (
            <p role="alert" className="mt-3 border-l-4 border-warning pl-3">
              {hindrance}
            </p>
          )}
          {order !== null && (
            <p className="pt-3">
              <Link href={`/shop/orders/${order}`} className="btn btn-outline btn-sm">
                Order {order}
              </Link>
            </p>
          )}
          <QuoteDecision
            key={view.version}
            view={view}
            lines={chosen}
            total={hindrance === '' ? (sums?.total ?? null) : null}
          />
          <ol aria-label="What was written" className="mt-4 border-t border-base-300 pt-3">
            {said.map(({ who, when, text }, at) => (
              <li key={at} className="pb-3">
                <b>{who}</b> <span className="text-soft">{when}</span>
                <p className="whitespace-pre-line">{text}</p>
              </li>
            ))}
          </ol>
          {files.length > 0 && (
            <div className="pb-3">
              <b>Sent along</b>
              <FileLinks files={files} below={`/shop/quotes/${view.number}/files`} />
            </div>
          )}
        </div>
      </div>
    </>
  )
}

function areEither(lines: readonly ShopQuoteLine[], one: number, other: number): boolean {
  const of = (position: number) => lines.find((line) => line.position === position)?.insteadOf ?? null
  return of(one) === other || of(other) === one || (of(one) !== null && of(one) === of(other))
}

interface LinesProps {
  readonly view: ShopQuoteView
  readonly chosen: readonly number[]
  /** `null` where nothing can be chosen. */
  readonly onChoose: ((line: ShopQuoteLine, isTaken: boolean) => void) | null
}

function Lines({ view, chosen, onChoose }: LinesProps) {
  const { lines, priceDigits, digits, words, currency } = view
  const isOffered = lines.some(({ price }) => price !== null)
  const hasTheirs = lines.some(({ their }) => their !== null)
  return (
    <table className="w-full">
      <caption className="sr-only">
        Items, prices in {currency}, {words}
      </caption>
      <thead className="max-sm:sr-only">
        <tr className="border-b border-base-content text-left text-soft">
          <th className="py-1 font-normal" colSpan={2}>
            Item
          </th>
          <th className="py-1 pl-3 text-right font-normal">Quantity</th>
          {hasTheirs && <th className="py-1 pl-3 text-right font-normal">Your price</th>}
          {isOffered && <th className="py-1 pl-3 text-right font-normal">Offered</th>}
          {isOffered && <th className="py-1 pl-3 text-right font-normal">Line total</th>}
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => {
          const isTaken = chosen.includes(line.position)
          return (
            <tr
              key={line.position}
              className={`border-b border-base-300 max-sm:grid max-sm:grid-cols-[auto_1fr_auto] max-sm:gap-x-3 max-sm:py-2 ${onChoose && !isTaken ? 'text-soft' : ''}`}
            >
              <td className="w-16 py-1 max-sm:row-span-2">
                <span className="flex items-center gap-2">
                  {onChoose && (
                    <input
                      type="checkbox"
                      className="checkbox checkbox-sm"
                      aria-label={`Take ${line.name}`}
                      checked={isTaken}
                      onChange={(event) => onChoose(line, event.target.checked)}
                    />
                  )}
                  <span className="block h-10 w-13 shrink-0 bg-plate">
                    {line.picture && (
                      <ProductPicture name={line.picture} className="h-10 w-13 object-contain" />
                    )}
                  </span>
                </span>
              </td>
              <td className="py-1 pl-4 text-base max-sm:col-span-2 max-sm:pl-0">
                {line.product === null ? (
                  line.name
                ) : (
                  <Link
                    href={`/shop/product/${encodeURIComponent(line.product)}?sku=${encodeURIComponent(line.sku)}`}
                    className="hover:underline"
                  >
                    {line.name}
                  </Link>
                )}
                {line.extras.length > 0 && <span className="block">with {line.extras.join(', ')}</span>}
                {line.notes.map((note) => (
                  <span key={note} className="block text-sm text-warning-content">
                    {note}
                  </span>
                ))}
              </td>
              <td className="py-1 pl-3 text-right text-base tabular-nums max-sm:text-left">
                {line.quantity}
                <span className="sm:hidden"> at</span>
              </td>
              {hasTheirs && (
                <td className="py-1 pl-3 text-right text-base text-soft tabular-nums">
                  {line.their === null ? (
                    'by quote'
                  ) : line.price !== null && line.price !== line.their ? (
                    <s>{formatAmount(line.their, priceDigits)}</s>
                  ) : (
                    formatAmount(line.their, priceDigits)
                  )}
                </td>
              )}
              {isOffered && (
                <td className="py-1 pl-3 text-right text-base font-semibold tabular-nums">
                  {line.price === null ? '–' : formatAmount(line.price, priceDigits)}
                  {line.before !== null && (
                    <span className="block text-sm font-normal text-soft">
                      first <s>{formatAmount(line.before, priceDigits)}</s>
                    </span>
                  )}
                </td>
              )}
              {isOffered && (
                <td className="py-1 pl-3 text-right text-base tabular-nums max-sm:col-start-3">
                  {line.total === null ? '–' : formatAmount(line.total, digits)}
                </td>
              )}
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
