interface MarginDumbbellProps {
  /** In percent. */
  readonly before: number | null
  readonly after: number | null
  /** The margin that should not be gone below. */
  readonly floor: number
}

const WIDTH = 144
const LOWEST = -10
const HIGHEST = 70

/** A margin before and after a change, on one line for all rows. */
export function MarginDumbbell({ before, after, floor }: MarginDumbbellProps) {
  const place = (percent: number) =>
    ((Math.max(LOWEST, Math.min(HIGHEST, percent)) - LOWEST) / (HIGHEST - LOWEST)) * (WIDTH - 12) + 6
  return (
    <svg viewBox={`0 0 ${WIDTH} 16`} className="h-4 w-full" aria-hidden preserveAspectRatio="none">
      <line x1="0" x2={WIDTH} y1="8" y2="8" className="stroke-base-300" />
      <line x1={place(floor)} x2={place(floor)} y1="1" y2="15" className="stroke-base-content/30" />
      {before !== null && after !== null && (
        <line x1={place(before)} x2={place(after)} y1="8" y2="8" strokeWidth="4" className="stroke-bar" />
      )}
      {before !== null && (
        <circle cx={place(before)} cy="8" r="3.5" strokeWidth="1.5" className="fill-base-100 stroke-bar" />
      )}
      {after !== null && (
        <circle
          cx={place(after)}
          cy="8"
          r="4"
          className={after < 0 ? 'fill-error' : after < floor + 5 ? 'fill-accent' : 'fill-primary'}
        />
      )}
    </svg>
  )
}
