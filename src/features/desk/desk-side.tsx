'use client'

import { formatAmount, formatMoney, formatPercent } from '@/ui/format/amount'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { Desk } from './use-desk'

interface DeskSideProps {
  readonly desk: Desk
  readonly isBusy: boolean
  readonly problem: string
  readonly onPlace: () => void
}

/** What the order comes to, whether it can be placed, and what its buyer orders otherwise. */
export function DeskSide({ desk, isBusy, problem, onPlace }: DeskSideProps) {
  const { figures, buyer, typed } = desk
  const wrong = figures?.lines.filter((line) => line.problem !== '') ?? []
  const inTheWay = [
    ...(wrong.length > 0
      ? [
          `${wrong.length} ${wrong.length === 1 ? 'line is' : 'lines are'} in the way: ${wrong.map(({ name }) => name).join(', ')}`,
        ]
      : []),
    ...(figures?.problems ?? []),
  ]
  const { length } = typed.lines
  const weight = figures?.weight ? `, ${figures.weight} kg` : ''
  return (
    <>
      <h2 className="text-base leading-6 font-semibold">This order</h2>
      <p className="pb-2 text-xs text-soft">
        {length} {length === 1 ? 'line' : 'lines'}
        {figures && `, ${figures.units} units${weight}`}
      </p>
      {figures && (
        <dl className="tabular-nums" aria-label="Sums">
          {figures.sums.map(({ label, amount, look }) => (
            <div
              key={label}
              className={`flex justify-between gap-3 border-b border-dotted border-base-300 py-1 ${look === 'soft' ? 'text-xs text-soft' : ''} ${look === 'bold' ? 'font-semibold' : ''}`}
            >
              <dt>{label}</dt>
              <dd>{formatAmount(amount, figures.digits)}</dd>
            </div>
          ))}
          {figures.total !== null && (
            <div className="flex items-baseline justify-between border-t border-base-content pt-1 text-xl font-semibold">
              <dt>Total</dt>
              <dd data-testid="desk-total">{formatMoney(figures.total, figures.currency, figures.digits)}</dd>
            </div>
          )}
        </dl>
      )}
      {figures && figures.margin !== null && (
        <p className="text-xs text-soft">We keep {formatPercent(figures.margin)}</p>
      )}
      <button
        type="button"
        className="btn mt-3 w-full btn-primary"
        disabled={isBusy || !desk.isSettled || length === 0 || inTheWay.length > 0}
        onClick={onPlace}
      >
        Place the order <kbd className="kbd kbd-xs text-base-content">Ctrl Enter</kbd>
      </button>
      {(problem || desk.problem) && (
        <p role="alert" className="pt-2 text-error">
          {problem || desk.problem}
        </p>
      )}
      {inTheWay.map((each) => (
        <p key={each} className="pt-2 font-semibold text-error">
          {each}
        </p>
      ))}
      {figures && figures.limits.length > 0 && (
        <>
          <h2 className="pt-5 pb-1 text-xs font-semibold">Limits</h2>
          {figures.limits.map(({ name, href, about, isBroken }) => (
            <p
              key={href}
              className="flex justify-between gap-3 border-b border-dotted border-base-300 py-1 text-xs"
            >
              <span>
                <VantageLink href={href} className="link-name" tabIndex={-1}>
                  {name}
                </VantageLink>{' '}
                <span className="text-soft">{about}</span>
              </span>
              <span className={isBroken ? 'font-semibold text-error' : 'text-primary'}>
                {isBroken ? 'not kept' : 'kept'}
              </span>
            </p>
          ))}
        </>
      )}
      {buyer.href !== null && (
        <>
          <h2 className="pt-5 pb-1 text-xs font-semibold">
            <VantageLink href={buyer.href} className="link-name" tabIndex={-1}>
              {buyer.name}
            </VantageLink>
          </h2>
          <p className="border-b border-dotted border-base-300 pb-1 text-xs text-soft">{buyer.about}</p>
          {buyer.last && (
            <p className="flex justify-between gap-3 border-b border-dotted border-base-300 py-1 text-xs">
              <span className="text-soft">Last order, {buyer.last.when}</span>
              <button
                type="button"
                className="link-name whitespace-nowrap"
                onClick={() => desk.addLines(buyer.last?.lines ?? [])}
              >
                Repeat its {buyer.last.lines.length} {buyer.last.lines.length === 1 ? 'line' : 'lines'}
              </button>
            </p>
          )}
          {buyer.regular.length > 0 && (
            <p className="pt-2 pb-1 text-xs text-soft">Ordered again and again, not yet here</p>
          )}
          {buyer.regular.map(({ sku, name, quantity, unit }) => (
            <p
              key={sku}
              className="flex justify-between gap-3 border-b border-dotted border-base-300 py-1 text-xs"
            >
              <span>{name}</span>
              <span className="whitespace-nowrap">
                <button
                  type="button"
                  className="link-name"
                  onClick={() => desk.addLines([{ sku, quantity, extras: [], price: '', reason: '' }])}
                >
                  add {quantity}
                </button>
                {unit !== null && figures && (
                  <span className="text-soft"> at {formatAmount(unit, figures.priceDigits)}</span>
                )}
              </span>
            </p>
          ))}
        </>
      )}
    </>
  )
}
