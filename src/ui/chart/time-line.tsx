import { formatDay } from '../format/instant'

interface TimeLineProps {
  /** Epoch milliseconds; `null` where open. */
  readonly from: number | null
  readonly to: number | null
  readonly now: number
  readonly timeZone: string
}

const YEAR = 365 * 86_400_000

/** A period on a line with today on it. */
export function TimeLine({ from, to, now, timeZone }: TimeLineProps) {
  const start = Math.min(from ?? now - YEAR / 2, now)
  const end = Math.max(to ?? now + YEAR / 2, now)
  const margin = Math.max((end - start) * 0.08, 86_400_000)
  const place = (at: number) => ((at - start + margin) / (end - start + 2 * margin)) * 240
  const day = (at: number) => formatDay(new Date(at), timeZone)
  return (
    <figure>
      <svg viewBox="0 0 240 34" className="w-full" role="img">
        <title>{`From ${from === null ? 'the start' : day(from)} until ${to === null ? 'no end' : day(to - 1)}`}</title>
        <line x1="0" x2="240" y1="22" y2="22" className="stroke-base-300" />
        <rect
          x={from === null ? 0 : place(from)}
          width={(to === null ? 240 : place(to)) - (from === null ? 0 : place(from))}
          y="17"
          height="10"
          className={now >= (from ?? 0) && now < (to ?? Infinity) ? 'fill-primary' : 'fill-bar'}
        />
        <rect x={place(now) - 0.75} y="10" width="1.5" height="22" className="fill-error" />
        <text x={place(now)} y="8" textAnchor="middle" className="fill-error text-[9px] font-semibold">
          today
        </text>
      </svg>
      <figcaption className="flex justify-between text-xs text-soft">
        <span>{from === null ? 'no start' : day(from)}</span>
        <span>{to === null ? 'no end' : day(to - 1)}</span>
      </figcaption>
    </figure>
  )
}
