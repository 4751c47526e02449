import type { Decimal } from '@/core/decimal/decimal'
import { formatAmount } from '@/ui/format/amount'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { LineAbout } from './offer-view'

const WIDTH = 240
const HEIGHT = 44
const EDGE = 10

interface PaidLineProps {
  /** The latest first. */
  readonly paid: LineAbout['paid']
  readonly offered: Decimal | null
  readonly digits: number
}

/** What one cost in their orders, drawn up to what is offered now, and order by order. */
export function PaidLine({ paid, offered, digits }: PaidLineProps) {
  const earlier = [...paid].reverse().map(({ unit }) => Number(unit))
  const values = offered === null ? earlier : [...earlier, Number(offered)]
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const x = (at: number) => EDGE + (at / Math.max(1, values.length - 1)) * (WIDTH - 2 * EDGE)
  const y = (value: number) =>
    high === low ? HEIGHT / 2 : EDGE + ((high - value) / (high - low)) * (HEIGHT - 2 * EDGE)
  const points = values.map((value, at) => [x(at), y(value)] as const)
  const known = points.slice(0, earlier.length)
  const line = (some: readonly (readonly [number, number])[]) =>
    some.map((point) => point.join(',')).join(' ')
  return (
    <>
      {values.length > 1 && (
        <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" aria-hidden>
          <polyline points={line(known)} className="fill-none stroke-primary" strokeWidth={1.5} />
          {offered !== null && (
            <polyline
              points={line(points.slice(-2))}
              className="fill-none stroke-primary"
              strokeWidth={1.5}
              strokeDasharray="3 3"
            />
          )}
          {known.map(([cx, cy], at) => (
            <circle key={at} cx={cx} cy={cy} r={3} className="fill-primary" />
          ))}
          {offered !== null && (
            <circle
              cx={x(values.length - 1)}
              cy={y(Number(offered))}
              r={4}
              className="fill-lifted stroke-info"
              strokeWidth={2}
            />
          )}
        </svg>
      )}
      {paid.map(({ order, when, quantity, unit }, at) => (
        <p
          key={at}
          className="flex justify-between gap-3 border-b border-dotted border-base-300 py-1 text-xs"
        >
          <VantageLink href={`/orders/${order}`} className="link-name">
            {when}
          </VantageLink>
          <span className="tabular-nums">
            {quantity} at {formatAmount(unit, digits)}
          </span>
        </p>
      ))}
    </>
  )
}
