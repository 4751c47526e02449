/** One step of a curve: from where on, and how high. */
export interface CurveStep {
  readonly from: number
  readonly height: number
}

const WIDTH = 44
const HEIGHT = 16
const EDGE = 2

/** How a price falls with the quantity, small enough to stand in a line. The words beside it say the same. */
export function StepCurve({ steps }: { readonly steps: readonly CurveStep[] }) {
  const last = steps.at(-1)
  if (!last || steps.length < 2) return null
  // Quantities grow by multiples, so that 10, 50 and 250 lie evenly.
  const place = (from: number) => Math.log(Math.max(1, from))
  const end = place(last.from * 2)
  const heights = steps.map(({ height }) => height)
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  const x = (from: number) => EDGE + (place(from) / end) * (WIDTH - 2 * EDGE)
  const y = (height: number) =>
    high === low ? HEIGHT / 2 : EDGE + ((high - height) / (high - low)) * (HEIGHT - 2 * EDGE)
  const path = steps
    .map(({ from, height }, at) => (at === 0 ? `M ${x(1)} ${y(height)}` : `H ${x(from)} V ${y(height)}`))
    .join(' ')
  return (
    <svg
      aria-hidden
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="shrink-0 text-primary"
    >
      <path d={`${path} H ${WIDTH - EDGE}`} fill="none" stroke="currentColor" strokeWidth={1.5} />
    </svg>
  )
}
