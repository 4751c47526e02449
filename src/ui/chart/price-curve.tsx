interface CurvePoint {
  readonly since: number
  /** NaN where there is no price. */
  readonly height: number
  readonly label: string
}

const WIDTH = 780
const HEIGHT = 250
const LEFT = 44
const BOTTOM = 22
const TOP = 14
const DAY = 86_400_000

/** A price over a time as steps, its causes beside them; the last thirty days and the day looked from are marked. */
export function PriceCurve({
  points,
  start,
  end,
  marked,
  timeZone,
}: {
  readonly points: readonly CurvePoint[]
  readonly start: number
  readonly end: number
  /** Epoch milliseconds; `null` for no day. */
  readonly marked: number | null
  readonly timeZone: string
}) {
  const heights = points.map(({ height }) => height).filter((height) => !Number.isNaN(height))
  if (heights.length === 0) return null
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  const room = Math.max((high - low) * 0.15, high * 0.05)
  const x = (at: number) => LEFT + ((at - start) / (end - start)) * (WIDTH - LEFT - 4)
  const y = (height: number) =>
    TOP + ((high + room - height) / (high - low + 2 * room)) * (HEIGHT - TOP - BOTTOM)
  const months = monthsBetween(start, end, timeZone)
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" role="img" aria-label="The price over time">
      <rect
        x={x(Math.max(start, end - 30 * DAY))}
        y={TOP}
        width={x(end) - x(Math.max(start, end - 30 * DAY))}
        height={HEIGHT - TOP - BOTTOM}
        fill="var(--color-warning)"
      />
      {[low, high].map((height) => (
        <g key={height}>
          <line x1={LEFT} x2={WIDTH} y1={y(height)} y2={y(height)} stroke="var(--color-base-300)" />
          <text x={LEFT - 6} y={y(height) + 4} textAnchor="end" fontSize={11} fill="var(--color-soft)">
            {height.toFixed(2)}
          </text>
        </g>
      ))}
      {months.map(({ at, name }) => (
        <text key={at} x={x(at)} y={HEIGHT - 6} fontSize={11} fill="var(--color-soft)">
          {name}
        </text>
      ))}
      {points.map(({ since, height, label }, place) => {
        const until = points[place + 1]?.since ?? end
        const next = points[place + 1]?.height
        if (Number.isNaN(height)) return null
        return (
          <g key={since} stroke="var(--color-primary)" strokeWidth={2}>
            <line x1={x(since)} x2={x(until)} y1={y(height)} y2={y(height)}>
              <title>{label}</title>
            </line>
            {next !== undefined && !Number.isNaN(next) && (
              <line x1={x(until)} x2={x(until)} y1={y(height)} y2={y(next)} />
            )}
          </g>
        )
      })}
      {marked !== null && marked > start && marked <= end && (
        <line
          x1={x(marked)}
          x2={x(marked)}
          y1={TOP}
          y2={HEIGHT - BOTTOM}
          stroke="var(--color-secondary)"
          strokeWidth={2}
        />
      )}
    </svg>
  )
}

function monthsBetween(start: number, end: number, timeZone: string) {
  const months: { at: number; name: string }[] = []
  const first = new Date(start)
  for (let month = first.getUTCMonth() + 1; ; month += 1) {
    const at = Date.UTC(first.getUTCFullYear(), month, 1)
    if (at > end) return months
    months.push({
      at,
      name: new Intl.DateTimeFormat('en-IE', { month: 'short', timeZone }).format(new Date(at)),
    })
  }
}
