'use client'

import { formatAmount, formatMoney } from '@/ui/format/amount'
import { useLoaded } from '@/ui/frame/use-loaded'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { TraceStepView } from '@/ui/trace/trace-steps'
import { Waterfall } from '@/ui/trace/waterfall'
import { PaidLine } from './paid-line'
import type { LineAbout, LineFigures, QuoteView } from './offer-view'
import type { WorkingLine } from '@/server/quotes/quote-shape'

interface LineAsideProps {
  readonly view: QuoteView
  readonly line: WorkingLine
  readonly figures: LineFigures
  readonly until: string
}

/** Everything that helps to find a price for one line: how theirs came about, what they paid, how far down it could go. */
export function LineAside({ view, line, figures, until }: LineAsideProps) {
  const { currency, priceDigits, number, buyer } = view
  const fields = new URLSearchParams({ sku: line.sku, quantity: line.quantity, until })
  const { value: about } = useLoaded<LineAbout & { readonly steps: readonly TraceStepView[] }>(
    `/api/quotes/${number}/line?${fields}`,
    0,
  )
  const { price, their, name } = figures
  const amount = (value: NonNullable<LineFigures['price']>) => formatAmount(value, priceDigits)
  const steps = about?.steps ?? []
  const last: readonly TraceStepView[] =
    price !== null && price !== their
      ? [
          {
            parts: [{ text: 'This quote' }],
            amount: price,
            currency,
            digits: priceDigits,
            taxWord: '',
          },
        ]
      : []
  return (
    <>
      <p className="text-xl leading-7 font-semibold" data-testid="aside-price">
        {price === null ? 'No price yet' : formatMoney(price, currency, priceDigits)}
      </p>
      <p className="text-xs font-semibold">
        offered to {buyer} for {name}
      </p>
      <p className="text-xs text-soft">
        {line.quantity} of them
        {their === null
          ? '; they have no price without a quote'
          : `, they would pay ${amount(their)} each without a quote`}
      </p>
      <Waterfall steps={[...steps, ...last]} currency={currency} />
      {about && (
        <>
          <h2 className="pt-4 pb-1 text-xs font-semibold">What they paid before</h2>
          {about.paid.length === 0 ? (
            <p className="text-soft">Nothing yet: they never bought it.</p>
          ) : (
            <PaidLine paid={about.paid} offered={price} digits={priceDigits} />
          )}
          {about.breaks.length > 0 && (
            <>
              <h2 className="pt-4 pb-1 text-xs font-semibold">For more they pay less</h2>
              {about.breaks.map(({ from, unit }) => (
                <Row key={from} name={`from ${from} on`}>
                  {amount(unit)}
                </Row>
              ))}
            </>
          )}
          {about.others.length > 0 && (
            <>
              <h2 className="pt-4 pb-1 text-xs font-semibold">Others who asked for it</h2>
              {about.others.map(({ quote, buyer: who, when, about: said }) => (
                <Row
                  key={quote}
                  name={
                    <>
                      <VantageLink href={`/quotes/${quote}`} className="link-name">
                        {who}
                      </VantageLink>
                      , {when}
                    </>
                  }
                >
                  {said}
                </Row>
              ))}
            </>
          )}
          {about.down.length > 0 && (
            <>
              <h2 className="pt-4 pb-1 text-xs font-semibold">How far down</h2>
              {about.down.map(({ what, href, price: low }) => (
                <Row
                  key={what}
                  name={
                    href ? (
                      <VantageLink href={href} className="link-name">
                        {what}
                      </VantageLink>
                    ) : (
                      what
                    )
                  }
                >
                  {amount(low)}
                </Row>
              ))}
            </>
          )}
          {about.mind.length > 0 && (
            <>
              <h2 className="pt-4 pb-1 text-xs font-semibold">Mind</h2>
              {about.mind.map((each) => (
                <p key={each} className="text-xs">
                  {each}
                </p>
              ))}
            </>
          )}
        </>
      )}
    </>
  )
}

function Row({ name, children }: { readonly name: React.ReactNode; readonly children: React.ReactNode }) {
  return (
    <p className="flex justify-between gap-3 border-b border-dotted border-base-300 py-1 text-xs">
      <span>{name}</span>
      <span className="text-right whitespace-nowrap tabular-nums">{children}</span>
    </p>
  )
}
