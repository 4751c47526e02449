import type { HistoryLine } from '../format/history-line'

/** What happened to a record, newest first. */
export function HistorySection({ history }: { readonly history: readonly HistoryLine[] }) {
  return (
    <section className="px-6 pt-4 pb-6" aria-label="History">
      <h2 className="pb-1 text-xs font-semibold">History</h2>
      <ul>
        {history.map(({ changeSet, when, author, note }) => (
          <li
            key={changeSet}
            className="grid grid-cols-[170px_120px_1fr] gap-3 border-b border-dotted border-base-300 py-1"
          >
            <span className="text-soft">{when}</span>
            <span>{author}</span>
            <span className="truncate">{note}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
