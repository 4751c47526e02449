import { formatDay, formatTime } from './instant'

/** One change of a record, as a sheet shows it. */
export interface HistoryLine {
  readonly changeSet: number
  readonly when: string
  readonly author: string
  readonly note: string
}

export function toHistoryLines(
  changes: readonly {
    readonly changeSet: number
    readonly at: Date
    readonly author: string
    readonly note: string
  }[],
  timeZone: string,
): readonly HistoryLine[] {
  return changes.map(({ changeSet, at, author, note }) => ({
    changeSet,
    author,
    note,
    when: `${formatDay(at, timeZone)}, ${formatTime(at, timeZone)}`,
  }))
}
