/** Instants as the merchant reads them, in the store's own time zone. */
export function formatDay(instant: Date, timeZone: string): string {
  return new Intl.DateTimeFormat('en-IE', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    timeZone,
  }).format(instant)
}

/** A local date, `2027-01-28`, as it is read. */
export function formatLocalDay(day: string): string {
  return formatDay(new Date(`${day}T00:00:00Z`), 'UTC')
}

export function formatTime(instant: Date, timeZone: string): string {
  return new Intl.DateTimeFormat('en-IE', {
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
    timeZone,
  }).format(instant)
}

/** "1 March 2027, 16:00", epoch milliseconds given. */
export function formatMoment(at: number, timeZone: string): string {
  const instant = new Date(at)
  const time = formatTime(instant, timeZone)
  return time === '00:00' ? formatDay(instant, timeZone) : `${formatDay(instant, timeZone)}, ${time}`
}
