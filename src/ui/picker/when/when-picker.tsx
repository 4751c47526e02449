'use client'

import { MONTHS, readWhen, writeDate, writeLastDay, writeWhen } from '@/core/notation/when-text'
import { localDay, outlookByDay, turnAfter } from '@/core/predicates/schedule-outlook'
import { readEnd, writeEnd } from '@/core/predicates/schedule-text'
import { ALWAYS, compileSchedule, type Schedule } from '@/core/predicates/when'
import { useState } from 'react'
import { PickerPanel } from '../panel/picker-panel'
import { TypedSentence } from '../typed-sentence'
import { Key } from '../panel/picker-parts'
import { useClock } from '../picker-sources'
import type { StripProps } from '../strips/strip'
import { useDone } from '../panel/use-done'
import { DaysCalendar } from './days-calendar'
import { WeekGrid } from './week-grid'
import { YearLabels, YearStrip } from './year-strip'

const YEAR_DAYS = 365
const DAY = 86_400_000

const WEEKS = [
  ['every day', []],
  ['Mondays to Fridays', [1, 2, 3, 4, 5]],
  ['weekends', [6, 7]],
] as const

const TAB =
  'aria-pressed:border-base-content aria-pressed:font-semibold aria-pressed:text-base-content border-b border-transparent text-secondary'

/** When a rule holds: a period, days and hours of the week, months; typed or clicked, one follows the other. */
export function WhenPicker({ label, initial, onDone, onCancel, onChange }: StripProps) {
  const { timeZone, now } = useClock()
  const [typed, setTyped] = useState(initial)
  const [schedule, setSchedule] = useState<Schedule>(() => {
    const read = readWhen(initial)
    return read.ok ? read.value : ALWAYS
  })
  const [end, setEnd] = useState<'from' | 'to'>('from')
  const { problem, setProblem, isBusy, done } = useDone(onDone)
  const read = readWhen(typed)
  const today = localDay(now, timeZone)
  const days = outlookByDay(schedule, today, YEAR_DAYS)
  const onDays = days.filter(({ minutes }) => minutes > 0)
  const hours = onDays.reduce((sum, { minutes }) => sum + minutes, 0) / 60

  function change(part: Partial<Schedule>): void {
    const next = { ...schedule, ...part }
    setSchedule(next)
    setTyped(writeWhen(next))
    setProblem(null)
    onChange?.(writeWhen(next))
  }
  function type(text: string): void {
    setTyped(text)
    setProblem(null)
    const understood = readWhen(text)
    if (!understood.ok) return
    setSchedule(understood.value)
    onChange?.(writeWhen(understood.value))
  }
  function pick(day: string): void {
    if (end === 'to') return change({ to: readEnd(day) ?? null })
    change({
      from: `${day}T00:00`,
      ...(schedule.to !== null && schedule.to <= `${day}T00:00` && { to: null }),
    })
    setEnd('to')
  }
  const keep = () => (read.ok ? void done(typed) : setProblem(read.problem))
  const first = schedule.from?.slice(0, 10) ?? null
  const last = schedule.to === null ? null : writeEnd(schedule.to).slice(0, 10)
  const setHour = (side: 'from' | 'to', time: string) => {
    const window = schedule.hours ?? { from: '00:00', to: '24:00' }
    if (/^\d{2}:\d{2}$/.test(time)) change({ hours: { ...window, [side]: time } })
  }
  return (
    <PickerPanel
      label={label}

      problem={problem}
      isBusy={isBusy}
      keys={
        <>
          <Key>↑</Key> <Key>↓</Key> day of the week · <Key>Space</Key> on or off · <Key>Tab</Key> next · type
          it in the field above
        </>
      }
      onDone={keep}
      onCancel={onCancel}

      foot={<Next schedule={schedule} timeZone={timeZone} now={now} />}
    >
      <TypedSentence title="When" label="When it holds" value={typed} isWrong={!read.ok} onType={type}>
        <button type="button" className="ml-auto text-secondary" onClick={() => change(ALWAYS)}>
          always
        </button>
        <button
          type="button"
          className="text-secondary"
          onClick={() => {
            const year = Number(today.slice(0, 4)) + 1
            change({ from: `${year}-01-01T00:00`, to: `${year + 1}-01-01T00:00` })
          }}
        >
          only in {Number(today.slice(0, 4)) + 1}
        </button>
      </TypedSentence>
      <div className="grid md:grid-cols-[16rem_1fr] md:divide-x md:divide-base-300">
        <div className="px-6 py-2">
          <div className="flex gap-3 pb-2" role="group" aria-label="From and until">
            {(['from', 'to'] as const).map((side) => (
              <button
                key={side}
                type="button"
                aria-pressed={end === side}
                className="grow border border-base-300 bg-lifted px-2 py-1 text-left text-xs aria-pressed:border-secondary aria-pressed:bg-chosen"
                onClick={() => setEnd(side)}
              >
                <span className="block text-soft">{side === 'from' ? 'From' : 'Until'}</span>
                <span className="whitespace-nowrap">
                  {side === 'from'
                    ? short(writeDate(schedule.from)) || 'no start'
                    : short(writeLastDay(schedule.to)) || 'no end'}
                </span>
              </button>
            ))}
          </div>
          {(schedule.from !== null || schedule.to !== null) && (
            <p className="flex gap-3 pb-1 text-xs">
              {schedule.from !== null && (
                <button type="button" className="text-secondary" onClick={() => change({ from: null })}>
                  no start
                </button>
              )}
              {schedule.to !== null && (
                <button type="button" className="text-secondary" onClick={() => change({ to: null })}>
                  no end
                </button>
              )}
            </p>
          )}
          <DaysCalendar
            first={first}
            last={last}
            today={today}
            isOn={(day) => (outlookByDay(schedule, day, 1)[0]?.minutes ?? 0) > 0}
            onPick={pick}
          />
        </div>
        <div data-column className="px-6 py-2">
          <p className="flex flex-wrap items-baseline gap-x-4 pb-1">
            <span className="text-xs font-semibold text-soft">Days and hours</span>
            {WEEKS.map(([name, weekdays]) => (
              <button
                key={name}
                type="button"
                aria-pressed={String(schedule.weekdays) === String(weekdays)}
                className={TAB}
                onClick={() => change({ weekdays, overrides: {} })}
              >
                {name}
              </button>
            ))}
            <span className="ml-auto flex items-baseline gap-2">
              {(['from', 'to'] as const).map((side) => (
                <label key={side} className="flex items-baseline gap-2">
                  <span className="text-soft">{side}</span>
                  <input
                    inputMode="numeric"
                    placeholder="00:00"
                    aria-label={side === 'from' ? 'Hours from' : 'Hours to'}
                    className="w-14 border border-base-300 bg-lifted px-1"
                    key={schedule.hours?.[side] ?? 'none'}
                    defaultValue={schedule.hours?.[side] ?? ''}
                    onChange={(event) => setHour(side, event.target.value)}
                  />
                </label>
              ))}
              <button
                type="button"
                aria-pressed={schedule.hours === null}
                className={TAB}
                onClick={() => change({ hours: null, overrides: {} })}
              >
                all day
              </button>
            </span>
          </p>
          <WeekGrid schedule={schedule} onChange={change} />
          <p className="flex flex-wrap items-baseline gap-x-2 pt-3" role="group" aria-label="Months">
            <span className="text-xs font-semibold text-soft">Months</span>
            <button
              type="button"
              aria-pressed={schedule.months.length === 0}
              className={TAB}
              onClick={() => change({ months: [] })}
            >
              every month
            </button>
            {MONTHS.map((name, at) => (
              <button
                key={name}
                type="button"
                aria-pressed={schedule.months.includes(at + 1)}
                className={TAB}
                onClick={() =>
                  change({
                    months: schedule.months.includes(at + 1)
                      ? schedule.months.filter((month) => month !== at + 1)
                      : [...schedule.months, at + 1].sort((left, right) => left - right),
                  })
                }
              >
                {name.slice(0, 3)}
              </button>
            ))}
          </p>
          <p className="pt-1 text-xs text-soft">
            Drag in a row to give that day its own hours. Hours that end before they start run past midnight.
          </p>
        </div>
      </div>
      <div className="border-t border-base-300 px-6 pt-1 pb-1">
        <p className="flex justify-between pb-3 text-xs">
          <span className="font-semibold text-soft">The next 12 months</span>
          <span className="text-soft">
            on for{' '}
            <b className="text-base-content">
              {onDays.length} {onDays.length === 1 ? 'day' : 'days'}
              {hours < onDays.length * 24 && `, ${Math.round(hours)} hours`}
            </b>
          </span>
        </p>
        <YearStrip days={days} timeZone={timeZone} now={now} />
        <YearLabels days={days} timeZone={timeZone} now={now} />
      </div>
    </PickerPanel>
  )
}

/** "27 Nov 2026" for "27 November 2026". */
function short(date: string): string {
  return date.replace(/(\p{Letter}{3})\p{Letter}+/u, '$1')
}

function Next({
  schedule,
  timeZone,
  now,
}: {
  readonly schedule: Schedule
  readonly timeZone: string
  readonly now: number
}) {
  const { isOn, until } = turnAfter(compileSchedule(schedule, timeZone), now)
  const zone = <span className="text-soft"> · {timeZone}</span>
  if (!Number.isFinite(until))
    return (
      <>
        <b>{isOn ? 'On now, with no end' : 'Never on again'}</b>
        {zone}
      </>
    )
  const moment = momentOf(until, timeZone)
  const inDays = Math.round((until - now) / DAY)
  return (
    <>
      <b>
        {isOn ? 'On now, until' : 'Next start:'} {moment}
      </b>
      {inDays > 0 && `, in ${inDays} ${inDays === 1 ? 'day' : 'days'}`}
      {zone}
    </>
  )
}

function momentOf(at: number, timeZone: string): string {
  const parts = new Intl.DateTimeFormat('en-IE', {
    timeZone,
    dateStyle: 'full',
    timeStyle: 'short',
    hourCycle: 'h23',
  }).format(at)
  return parts.replace(' at ', ', ')
}
