/** Where the ticks of several strips stand, so that they can be compared. */
export interface StripScale {
  readonly from: number
  readonly to: number
}

const WIDTH = 234
const HEIGHT = 22
const PAD = 6

/** A scale that holds every value, and zero; far outliers are drawn at its ends. */
export function stripScale(values: readonly number[]): StripScale {
  const sorted = [...values].sort((left, right) => left - right)
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0
  const [low, high] = [Math.min(0, at(0.01)), Math.max(0, at(0.99))]
  const room = Math.max(2, (high - low) * 0.06)
  return { from: low - room, to: high + room }
}

function placeOf(value: number, { from, to }: StripScale): number {
  const inside = Math.min(to, Math.max(from, value))
  return PAD + ((inside - from) / (to - from)) * (WIDTH - 2 * PAD)
}

/** How far many prices move: each a tick, the middle half a bar, the median a thick tick. Percents, rising. */
export function ChangeStrip({
  percents,
  median,
  scale,
  label,
}: {
  readonly percents: readonly number[]
  readonly median: number | null
  readonly scale: StripScale
  readonly label: string
}) {
  const x = (value: number) => placeOf(value, scale)
  const quartile = (share: number) => percents[Math.floor(share * (percents.length - 1))] ?? 0
  const middle = HEIGHT / 2
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width={WIDTH} height={HEIGHT} role="img" aria-label={label}>
      <line x1={x(0)} x2={x(0)} y1={0} y2={HEIGHT} stroke="var(--color-base-300)" />
      {percents.length > 0 && (
        <>
          <line
            x1={x(percents[0] ?? 0)}
            x2={x(percents.at(-1) ?? 0)}
            y1={middle}
            y2={middle}
            stroke="var(--color-bar)"
          />
          <rect
            x={x(quartile(0.25))}
            y={middle - 3}
            width={Math.max(1, x(quartile(0.75)) - x(quartile(0.25)))}
            height={6}
            fill="var(--color-bar)"
          />
          {percents.map((percent, at) => (
            <line
              key={at}
              x1={x(percent)}
              x2={x(percent)}
              y1={middle - 6}
              y2={middle + 6}
              stroke="var(--color-primary)"
              strokeOpacity={0.45}
            />
          ))}
        </>
      )}
      {median !== null && (
        <rect x={x(median) - 1.5} y={middle - 8} width={3} height={16} fill="var(--color-base-content)" />
      )}
    </svg>
  )
}

/** The scale above strips: its ends and zero. */
export function StripAxis({ scale }: { readonly scale: StripScale }) {
  const marks = [scale.from, 0, scale.to].filter(
    (value, at, all) =>
      value === 0 || Math.abs(placeOf(value, scale) - placeOf(0, scale)) > 30 || all.length < 3,
  )
  return (
    <svg viewBox={`0 0 ${WIDTH} 14`} width={WIDTH} height={14} aria-hidden>
      {marks.map((value) => (
        <text
          key={value}
          x={placeOf(value, scale)}
          y={11}
          fontSize={11}
          fill="var(--color-soft)"
          textAnchor={value === 0 ? 'middle' : value < 0 ? 'start' : 'end'}
        >
          {value === 0 ? '0' : `${value < 0 ? '−' : '+'}${Math.abs(Math.round(value))} %`}
        </text>
      ))}
    </svg>
  )
}
