'use client'

import { parseDate } from '@internationalized/date'
import { useState } from 'react'
import {
  Button,
  Calendar,
  CalendarCell,
  CalendarGrid,
  CalendarGridBody,
  CalendarGridHeader,
  CalendarHeaderCell,
  Heading,
} from 'react-aria-components'

interface DaysCalendarProps {
  /** `2027-03-01`; `null` where open. The last day counts. */
  readonly first: string | null
  readonly last: string | null
  readonly today: string
  /** Whether the rule holds on a day, for its colour. */
  readonly isOn: (day: string) => boolean
  readonly onPick: (day: string) => void
}

/** A month with the days on which a rule holds; a click gives the end that is being set. */
export function DaysCalendar({ first, last, today, isOn, onPick }: DaysCalendarProps) {
  const [focused, setFocused] = useState(() => parseDate(first ?? today))
  // It turns to the first day whenever that becomes another one, as by typing.
  const [turnedTo, setTurnedTo] = useState(first)
  if (turnedTo !== first) {
    setTurnedTo(first)
    if (first !== null) setFocused(parseDate(first))
  }
  return (
    <Calendar
      aria-label="Days on which it holds"
      firstDayOfWeek="mon"
      visibleDuration={{ months: 1 }}
      focusedValue={focused}
      onFocusChange={setFocused}
      value={null}
      onChange={(date) => onPick(date.toString())}
      className="select-none"
    >
      <header className="flex items-center justify-between pb-1 text-xs">
        <Button slot="previous" className="px-2 text-secondary" aria-label="Earlier months">
          ‹
        </Button>
        <Heading className="font-semibold" />
        <Button slot="next" className="px-2 text-secondary" aria-label="Later months">
          ›
        </Button>
      </header>
      <CalendarGrid className="w-full border-separate border-spacing-y-px text-center">
        <CalendarGridHeader>
          {(day) => <CalendarHeaderCell className="text-xs font-normal text-soft">{day}</CalendarHeaderCell>}
        </CalendarGridHeader>
        <CalendarGridBody>
          {(date) => {
            const day = date.toString()
            const isEnd = day === first || day === last
            return (
              <CalendarCell
                date={date}
                className={({ isOutsideMonth, isFocusVisible }) =>
                  [
                    'cursor-pointer leading-6',
                    isOutsideMonth ? 'invisible' : '',
                    isEnd
                      ? 'bg-primary font-semibold text-primary-content'
                      : isOn(day)
                        ? 'bg-bar/40'
                        : 'text-soft',
                    day === today ? 'underline decoration-error decoration-2' : '',
                    isFocusVisible ? 'outline-2 outline-secondary' : '',
                  ].join(' ')
                }
              />
            )
          }}
        </CalendarGridBody>
      </CalendarGrid>
    </Calendar>
  )
}
