import { Temporal } from 'temporal-polyfill'

/** A period as local dates and times, the end outside. */
export interface Period {
  readonly from: string
  readonly to: string
}

/**
 * The period that follows one and is as long, by the calendar: a year after a year, three months after three months. One
 * that has no start is taken for a year.
 */
export function nextPeriod(from: string | null, to: string): Period {
  const end = Temporal.PlainDateTime.from(to)
  const start = from === null ? end.subtract({ years: 1 }) : Temporal.PlainDateTime.from(from)
  const length = start.until(end, { largestUnit: 'years' })
  return { from: to, to: end.add(length).toString({ smallestUnit: 'minute' }) }
}

/** Years from one period to the next, where that is a whole number of them; else `null`. */
export function yearsBetween(from: string, next: string): number | null {
  const { years, months, days, hours, minutes } = Temporal.PlainDateTime.from(from).until(next, {
    largestUnit: 'years',
  })
  return months === 0 && days === 0 && hours === 0 && minutes === 0 ? years : null
}

/** A name with its years moved on: "Supply 2026/27" → "Supply 2027/28"; `null` where it names no year. */
export function movedYears(name: string, years: number): string | null {
  if (!/\b20\d\d\b/.test(name)) return null
  return name.replace(
    /\b(20\d\d)(?:([/–-])(\d\d)\b(?!\d))?/g,
    (_all, year: string, mark?: string, short?: string) => {
      const moved = String(Number(year) + years)
      if (!mark || !short) return moved
      return `${moved}${mark}${String((Number(short) + years) % 100).padStart(2, '0')}`
    },
  )
}
