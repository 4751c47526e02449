import type { Decimal } from '@/core/decimal/decimal'
import { marginPercent } from '@/core/price/margin'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import { Parts } from '@/ui/trace/trace-parts'
import type { TraceView } from './trace-view'
import type { TraceStepView } from '@/ui/trace/trace-steps'

interface TracePairProps {
  readonly title: string
  readonly before: TraceView
  readonly after: TraceView
  readonly names: readonly [before: string, after: string]
}

/** How one price comes about on two sides, step beside step. */
export function TracePair({ title, before, after, names }: TracePairProps) {
  const count = Math.max(before.steps.length, after.steps.length)
  const highest = Math.max(...[...before.steps, ...after.steps].map(({ amount }) => Number(amount)), 0.01)
  return (
    <table className="w-full table-fixed" aria-label={`${title}, ${names.join(' and ')}`}>
      <thead>
        <tr className="border-b border-base-300 text-left text-xs">
          <th className="w-[40%] py-0.5 pr-2 font-semibold">{title}</th>
          {names.map((name) => (
            <th key={name} className="py-0.5 pr-2 font-normal text-soft">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {Array.from({ length: count }, (_, at) => {
          const [old, next] = [before.steps[at], after.steps[at]]
          const isOther = old?.amount !== next?.amount
          return (
            <tr key={at} className="border-b border-dotted border-base-300 align-top">
              <td className="py-1 pr-2">
                <StepName before={old} after={next} />
              </td>
              <Amount step={old} highest={highest} fill="bg-bar" isMarked={false} />
              <Amount step={next} highest={highest} fill="bg-primary" isMarked={isOther} />
            </tr>
          )
        })}
        <tr className="align-top">
          <td className="py-1 pr-2 text-soft">Cost {after.cost ?? 'unknown'}, margin</td>
          {[before, after].map((side, at) => (
            <td key={at} className="py-1 pr-2">
              {marginText(side)}
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  )
}

function StepName({
  before,
  after,
}: {
  readonly before: TraceStepView | undefined
  readonly after: TraceStepView | undefined
}) {
  const text = (step: TraceStepView | undefined) => step?.parts.map((part) => part.text).join(' ') ?? ''
  const isSame = text(before) === text(after)
  return (
    <>
      {!isSame && before && <s className="block text-xs text-soft">{text(before)}</s>}
      <Parts parts={(after ?? (isSame ? before : undefined))?.parts ?? []} />
    </>
  )
}

function Amount({
  step,
  highest,
  fill,
  isMarked,
}: {
  readonly step: TraceStepView | undefined
  readonly highest: number
  readonly fill: string
  readonly isMarked: boolean
}) {
  if (!step) return <td className="py-1 pr-2 text-soft">–</td>
  return (
    <td className="py-1 pr-2">
      <span className={`font-semibold ${isMarked ? 'bg-warning px-1 text-warning-content' : ''}`}>
        {formatAmount(step.amount, step.digits)}
      </span>
      <span
        aria-hidden
        className={`mt-0.5 block h-1 ${fill}`}
        style={{ width: `${Math.max(2, (Number(step.amount) / highest) * 100)}%` }}
      />
    </td>
  )
}

function marginText({
  compared,
  cost,
}: {
  readonly compared: Decimal | null
  readonly cost: Decimal | null
}): string {
  const margin = compared !== null && cost !== null ? marginPercent(compared, cost) : null
  return margin === null ? '–' : formatPercent(margin)
}
