'use client'

import { WEEKDAYS } from '@/core/notation/when-text'
import type { DailyWindow, Schedule } from '@/core/predicates/when'
import { useState } from 'react'

interface WeekGridProps {
  readonly schedule: Schedule
  readonly onChange: (change: Partial<Schedule>) => void
}

const HOURS = 24
const MINUTES = HOURS * 60

function minutesOf(time: string): number {
  const [hours = '0', minutes = '0'] = time.split(':')
  return Number(hours) * 60 + Number(minutes)
}

function timeOf(hour: number): string {
  return `${String(hour % HOURS).padStart(2, '0')}:00`
}

/** The window of one weekday; `null` where it is closed. */
function windowOn({ weekdays, hours, overrides }: Schedule, day: number): DailyWindow | null {
  if (weekdays.length > 0 && !weekdays.includes(day)) return null
  const own = overrides[day]
  if (own === null) return null
  return own ?? hours ?? { from: '00:00', to: '24:00' }
}

/** A week: each day on or off, its hours as a bar; dragging gives a day hours of its own. */
export function WeekGrid({ schedule, onChange }: WeekGridProps) {
  const [drag, setDrag] = useState<{
    readonly day: number
    readonly from: number
    readonly to: number
  } | null>(null)
  const { weekdays, overrides } = schedule
  const toggle = (day: number) => {
    const on = weekdays.length === 0 ? [1, 2, 3, 4, 5, 6, 7] : weekdays
    const next = on.includes(day) ? on.filter((each) => each !== day) : [...on, day].sort()
    const { [day]: _own, ...others } = overrides
    if (next.length > 0) onChange({ weekdays: next.length === 7 ? [] : next, overrides: others })
  }
  const release = () => {
    if (!drag) return
    const [from, to] = [Math.min(drag.from, drag.to), Math.max(drag.from, drag.to) + 1]
    const window = { from: timeOf(from), to: to === HOURS ? '24:00' : timeOf(to) }
    const isOpen = weekdays.length === 0 || weekdays.includes(drag.day)
    onChange({
      overrides: { ...overrides, [drag.day]: window },
      ...(!isOpen && { weekdays: [...weekdays, drag.day].sort() }),
    })
    setDrag(null)
  }
  return (
    <div role="group" aria-label="Days and hours" onPointerUp={release} onPointerLeave={() => setDrag(null)}>
      <div className="grid grid-cols-[6.5rem_1fr] text-xs text-soft">
        <span />
        <span className="flex justify-between">
          {['00:00', '06:00', '12:00', '18:00', '24:00'].map((time) => (
            <span key={time}>{time}</span>
          ))}
        </span>
      </div>
      {WEEKDAYS.map((name, at) => {
        const day = at + 1
        const window = windowOn(schedule, day)
        const [from, to] = window ? [minutesOf(window.from), minutesOf(window.to)] : [0, 0]
        const spans =
          window === null
            ? []
            : to > from
              ? [[from, to]]
              : [
                  [from, MINUTES],
                  [0, to],
                ]
        return (
          <div key={name} className="grid grid-cols-[6.5rem_1fr] items-center py-px">
            <button
              type="button"
              data-row
              role="checkbox"
              aria-checked={window !== null}
              className={`rounded-[3px] px-1 text-left focus:bg-chosen ${window ? 'font-semibold' : 'text-soft'}`}
              onClick={() => toggle(day)}
            >
              {name}
            </button>
            <div className="relative flex h-5 touch-none bg-base-200">
              {Array.from({ length: HOURS }, (_, hour) => (
                <span
                  key={hour}
                  className="grow border-l border-base-300/60"
                  onPointerDown={(event) => {
                    event.preventDefault()
                    setDrag({ day, from: hour, to: hour })
                  }}
                  onPointerEnter={() => setDrag((now) => now && { ...now, to: hour })}
                />
              ))}
              {(drag?.day === day
                ? [[Math.min(drag.from, drag.to) * 60, (Math.max(drag.from, drag.to) + 1) * 60]]
                : spans
              ).map(([start = 0, end = 0]) => (
                <span
                  key={start}
                  aria-hidden
                  className="pointer-events-none absolute inset-y-0 bg-primary"
                  style={{
                    left: `${(start / MINUTES) * 100}%`,
                    width: `${((end - start) / MINUTES) * 100}%`,
                  }}
                />
              ))}
            </div>
          </div>
        )
      })}
    </div>
  )
}
