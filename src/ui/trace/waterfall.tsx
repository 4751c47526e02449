import { formatAmount, formatMoney } from '../format/amount'
import { Parts } from './trace-parts'
import type { TraceStepView } from './trace-steps'

/** Each step with a bar as long as its amount is to the largest. */
export function Waterfall({
  steps,
  currency,
}: {
  readonly steps: readonly TraceStepView[]
  readonly currency: string
}) {
  const largest = Math.max(...steps.map(({ amount }) => Number(amount)))
  return (
    <ol className="mt-3 border-t border-base-300" data-testid="trace-steps">
      {steps.map(({ parts, amount, currency: own, digits, taxWord }, at) => (
        <li key={at} className="border-b border-base-300 pt-1.5 pb-2">
          <div className="flex items-baseline justify-between gap-3">
            <span className="leading-4">
              <Parts parts={parts} />
            </span>
            <span className="font-semibold whitespace-nowrap">
              {own === currency ? formatAmount(amount, digits) : formatMoney(amount, own, digits)}
              {taxWord && <span className="text-2xs font-normal text-soft">{taxWord}</span>}
            </span>
          </div>
          <div className="mt-1 h-1.5" aria-hidden>
            <div
              className={`h-full ${at === steps.length - 1 ? 'bg-primary' : 'bg-bar'}`}
              style={{ width: `${largest > 0 ? (Number(amount) / largest) * 100 : 0}%` }}
            />
          </div>
        </li>
      ))}
    </ol>
  )
}
