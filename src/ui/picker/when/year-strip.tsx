'use client'

import { clockChanges, type DayOutlook } from '@/core/predicates/schedule-outlook'
import { MONTHS } from '@/core/notation/when-text'

interface YearStripProps {
  readonly days: readonly DayOutlook[]
  readonly timeZone: string
  /** Epoch milliseconds. */
  readonly now: number
}

const DAY = 86_400_000

/** The next twelve months, a stripe for every day on which it holds, and where clocks change. */
export function YearStrip({ days, timeZone, now }: YearStripProps) {
  const changes = clockChanges(timeZone, now, now + days.length * DAY)
  const placeOf = (day: string) => days.findIndex((each) => each.day === day)
  const starts = days.flatMap(({ day }, at) => (day.endsWith('-01') ? [{ day, at }] : []))
  return (
    <svg viewBox={`0 0 ${days.length} 46`} preserveAspectRatio="none" className="h-12 w-full" role="img">
      <title>The next twelve months</title>
      <rect y="14" width={days.length} height="16" className="fill-base-200" />
      {runsOf(days).map(([from, to]) => (
        <rect key={from} x={from} y="14" width={to - from + 1} height="16" className="fill-primary" />
      ))}
      <rect x="0" y="8" width="0.8" height="26" className="fill-error" />
      {changes.map(({ day }) => (
        <rect key={day} x={placeOf(day)} y="10" width="0.8" height="24" className="fill-accent" />
      ))}
      {starts.map(({ day, at }) => (
        <rect key={day} x={at} y="30" width="0.5" height="4" className="fill-base-300" />
      ))}
    </svg>
  )
}

/** The names of the months and of the clock changes, as text that is not stretched with the drawing. */
export function YearLabels({ days, timeZone, now }: YearStripProps) {
  const changes = clockChanges(timeZone, now, now + days.length * DAY)
  const left = (day: string) => `${(days.findIndex((each) => each.day === day) / days.length) * 100}%`
  return (
    <div className="relative h-4 text-xs text-soft">
      {days
        .filter(({ day }) => day.endsWith('-01'))
        .map(({ day }) => (
          <span key={day} className="absolute" style={{ left: left(day) }}>
            {MONTHS[Number(day.slice(5, 7)) - 1]?.slice(0, 3)}
            {day.slice(5, 7) === '01' && ` ${day.slice(0, 4)}`}
          </span>
        ))}
      {changes.map(({ day, isForward }) => (
        <span
          key={day}
          className="absolute -top-[3.4rem] -translate-x-full pr-1 whitespace-nowrap text-accent"
          style={{ left: left(day) }}
        >
          clocks {isForward ? 'forward' : 'back'}
        </span>
      ))}
    </div>
  )
}

function runsOf(days: readonly DayOutlook[]): readonly (readonly [number, number])[] {
  const runs: [number, number][] = []
  days.forEach(({ minutes }, at) => {
    if (minutes === 0) return
    const last = runs.at(-1)
    if (last && last[1] === at - 1) last[1] = at
    else runs.push([at, at])
  })
  return runs
}
