'use client'

import { type Decimal, isPositive, subtract } from '@/core/decimal/decimal'
import { differencePercent } from '@/core/decimal/difference-percent'
import { marginPercent } from '@/core/price/margin'
import { formatAmount, formatMoney, formatPercent } from '@/ui/format/amount'
import { useFrame } from '@/ui/frame/frame-context'
import { useLoaded } from '@/ui/frame/use-loaded'
import { VantageLink } from '@/ui/frame/vantage-link'
import { withVantage } from '@/ui/frame/vantage-url'
import { keepHref } from './keep-true'
import { Parts } from '@/ui/trace/trace-parts'
import { IconX } from '@tabler/icons-react'
import { useHotkeys } from 'react-hotkeys-hook'
import { Waterfall } from '@/ui/trace/waterfall'
import type { TraceLossView, TraceView } from './trace-view'
import type { TracePart } from '@/ui/trace/trace-part'

/** The panel that says why: open for whatever price was asked about last. */
export function TracePanel() {
  const { trace, traceOpen, setTraceOpen, vantage, latestChangeSet } = useFrame()
  const from = trace?.from ?? vantage
  const address =
    trace && traceOpen ? withVantage(`/api/trace?sku=${encodeURIComponent(trace.sku)}`, from) : null
  const { value, problem } = useLoaded<TraceView>(address, latestChangeSet)
  useHotkeys('escape', () => setTraceOpen(false), { enabled: traceOpen })
  if (!traceOpen) {
    return (
      <button
        type="button"
        className="w-8 shrink-0 border-l border-base-300 py-4 text-xs font-semibold text-soft [writing-mode:vertical-rl] hover:bg-base-200"
        onClick={() => setTraceOpen(true)}
      >
        Why this price?
      </button>
    )
  }
  return (
    <aside
      aria-label="How this price came about"
      className="relative w-[280px] shrink-0 overflow-auto border-l border-base-300 bg-lifted px-4 py-4"
    >
      <button
        type="button"
        aria-label="Close the trace"
        className="absolute top-3 right-3 text-soft hover:text-base-content"
        onClick={() => setTraceOpen(false)}
      >
        <IconX size={16} stroke={1.75} aria-hidden />
      </button>
      <div aria-live="polite">
        {problem && <p className="pr-6 text-error">{problem}</p>}
        {!trace && <TraceInvitation />}
        {trace && !value && !problem && <p className="pr-6 text-soft">Working it out…</p>}
        {value && <Trace view={value} />}
        {trace && value && (
          <p className="mt-4 border-t-2 border-secondary pt-2">
            <VantageLink href={keepHref(trace.sku, from, value)} className="link-name">
              Keep this true
            </VantageLink>{' '}
            <span className="text-soft">as a proof, asked before every publication</span>
            <br />
            <VantageLink
              href={`/price-history?sku=${encodeURIComponent(trace.sku)}`}
              lookAs={from.as}
              className="link-name"
            >
              What they paid before
            </VantageLink>
          </p>
        )}
      </div>
    </aside>
  )
}

function TraceInvitation() {
  return (
    <>
      <h2 className="pr-6 text-sm font-semibold">Why this price?</h2>
      <p className="pt-1 text-soft">
        Click any price, or press T on it: every step that made it stands here, and every list that lost, with
        the reason.
      </p>
    </>
  )
}

/** How far a price moves: `, so +0.80 or +3.7 %`. */
function moveText(unit: Decimal, from: Decimal, digits: number): string {
  const percent = differencePercent(unit, from)
  const difference = subtract(unit, from)
  const plus = isPositive(difference) ? '+' : ''
  return `, so ${plus}${formatAmount(difference, digits)}${percent === null ? '' : ` or ${plus}${formatPercent(percent)}`}`
}

function Trace({ view }: { readonly view: TraceView }) {
  const { unit, compared, currency, digits, quantity, cost, publicPrice, recommendedPrice } = view
  const money = (amount: Decimal) => formatMoney(amount, currency, digits)
  const margin = compared !== null && cost !== null ? marginPercent(compared, cost) : null
  return (
    <>
      <h2 className="pr-6 text-2xl leading-7 font-semibold" data-testid="trace-amount">
        {unit === null ? 'No price' : money(unit)}
        {unit !== null && view.taxWord && (
          <span className="text-sm font-normal text-soft">{view.taxWord}</span>
        )}
      </h2>
      <p className="mt-1 text-sm leading-5 font-semibold">{view.headline}</p>
      {view.total !== null && quantity !== '1' && (
        <p className="mt-1 text-soft">
          {quantity} of them: {money(view.total)}
        </p>
      )}
      {view.live !== null && (
        <p className="mt-1" data-testid="trace-live">
          <span className="bg-warning px-1 text-warning-content">Live</span>{' '}
          {view.live.unit === null ? (
            'they have no price'
          ) : (
            <>
              they pay {money(view.live.unit)}
              {unit !== null && moveText(unit, view.live.unit, digits)}
            </>
          )}
        </p>
      )}
      {view.promoted !== null && (
        <p className="mt-1" data-testid="trace-promoted">
          <b>{money(view.promoted.unit)}</b> with {view.promoted.by}
        </p>
      )}
      {view.was !== null && (
        <p className="mt-1 text-soft">
          The shop shows it beside <s>{view.was}</s>
        </p>
      )}
      {view.hidden.length > 0 && (
        <p className="mt-2 border-l-2 border-warning pl-2">
          Not offered to them: <Parts parts={view.hidden} /> offers only what it lists.
        </p>
      )}
      {view.steps.length === 0 ? (
        <p className="mt-3">There is no base price, and no list that is for them names a price.</p>
      ) : (
        <Waterfall steps={view.steps} currency={currency} />
      )}
      {view.breaks.length > 0 && <Breaks breaks={view.breaks} money={money} />}
      <Losses losses={[...view.losers, ...view.idle]} silent={view.silent} money={money} />
      {view.wouldChange.length > 0 && (
        <section className="mt-4">
          <h3 className="text-xs font-semibold">What would change it</h3>
          <ul>
            {view.wouldChange.map(({ parts, outcome }, at) => (
              <li key={at} className="border-b border-dotted border-base-300 py-1">
                <Parts parts={parts} /> <span className="font-semibold">{outcome}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {view.terms.map(({ title, lines }) => (
        <section key={title} className="mt-4">
          <h3 className="text-xs font-semibold">{title}</h3>
          <ul>
            {lines.map(({ parts, outcome }, at) => (
              <li key={at} className="flex justify-between gap-3 border-b border-dotted border-base-300 py-1">
                <span>
                  <Parts parts={parts} />
                </span>
                <span className="shrink-0 text-right font-semibold tabular-nums">{outcome}</span>
              </li>
            ))}
          </ul>
        </section>
      ))}
      <section className="mt-4">
        <h3 className="text-xs font-semibold">Notes</h3>
        <dl className="[&>div]:flex [&>div]:justify-between [&>div]:border-b [&>div]:border-dotted [&>div]:border-base-300 [&>div]:py-1">
          <Fact
            name="Guests pay"
            value={publicPrice === null ? 'no price' : money(publicPrice.amount) + publicPrice.taxWord}
          />
          <Fact name="Cost" value={cost === null ? 'none on file' : money(cost)} />
          {margin !== null && (
            <Fact name="Margin" value={formatPercent(margin)} wrong={margin.startsWith('-')} />
          )}
          {recommendedPrice !== null && <Fact name="Recommended" value={money(recommendedPrice)} />}
        </dl>
      </section>
      {view.others.length > 0 && (
        <details className="mt-4">
          <summary className="cursor-pointer text-xs font-semibold text-soft">
            {view.others.length} {view.others.length === 1 ? 'list is' : 'lists are'} for others
          </summary>
          <LossList losses={view.others} money={money} />
        </details>
      )}
    </>
  )
}

/** What they pay from which quantity on, with a bar as long as the price. */
function Breaks({
  breaks,
  money,
}: {
  readonly breaks: TraceView['breaks']
  readonly money: (amount: Decimal) => string
}) {
  const highest = Math.max(...breaks.map(({ unit }) => Number(unit)))
  return (
    <section className="mt-4" data-testid="trace-breaks">
      <h3 className="text-xs font-semibold">By quantity</h3>
      <ul>
        {breaks.map(({ from, unit, taxWord }) => (
          <li key={from} className="grid grid-cols-[3.5rem_1fr_auto] items-center gap-2 py-0.5">
            <span className="text-soft">from {from}</span>
            <span
              aria-hidden
              className="h-1.5 bg-bar"
              style={{ width: `${(Number(unit) / highest) * 100}%` }}
            />
            <span>
              {money(unit)}
              {taxWord}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

interface LossesProps {
  readonly losses: readonly TraceLossView[]
  readonly money: (amount: Decimal) => string
}

function Losses({ losses, silent, money }: LossesProps & { readonly silent: readonly TracePart[] }) {
  if (losses.length + silent.length === 0) return null
  return (
    <section className="mt-4" data-testid="trace-losers">
      <h3 className="text-xs font-semibold">Did not decide it</h3>
      <LossList losses={losses} money={money} />
      {silent.length > 0 && (
        <p className="py-1 leading-4 text-soft">
          {silent.map((part, at) => (
            <span key={part.text}>
              {at > 0 && (at === silent.length - 1 ? ' and ' : ', ')}
              <Parts parts={[part]} />
            </span>
          ))}{' '}
          {silent.length === 1 ? 'has' : 'have'} no price for this item.
        </p>
      )}
    </section>
  )
}

function LossList({ losses, money }: LossesProps) {
  return (
    <ul>
      {losses.map(({ parts, reason, price, taxWord }, at) => (
        <li key={at} className="border-b border-dotted border-base-300 py-1 leading-4">
          <Parts parts={parts} /> <span className="text-soft">{reason}</span>
          {price !== null && <span className="text-soft"> · would give {money(price) + taxWord}</span>}
        </li>
      ))}
    </ul>
  )
}

function Fact({
  name,
  value,
  wrong = false,
}: {
  readonly name: string
  readonly value: string
  readonly wrong?: boolean
}) {
  return (
    <div>
      <dt className="text-soft">{name}</dt>
      <dd className={wrong ? 'font-semibold text-error' : ''}>{value}</dd>
    </div>
  )
}
