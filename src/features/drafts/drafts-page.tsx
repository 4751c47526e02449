import { VantageLink } from '@/ui/frame/vantage-link'
import type { ReactNode } from 'react'
import type { DraftsPageView, HistoryRow } from './drafts-page-view'
import { UndoChange } from './undo-change'

/** The open drafts, and everything that was changed live. */
export function DraftsPage({ view, start }: { readonly view: DraftsPageView; readonly start: ReactNode }) {
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Draft and history">
      <header className="flex flex-wrap items-baseline gap-x-4 pb-3">
        <h1 className="text-xl leading-7 font-semibold">Draft and history</h1>
        <p className="text-soft">
          A draft is a set of changes nobody sees until it is published, all of it at once. What was published
          can be undone exactly.
        </p>
      </header>
      {view.isFirstPage && (
        <>
          <OpenDrafts view={view} />
          {start}
        </>
      )}
      <h2 className="pt-5 pb-1 font-semibold">What was changed live</h2>
      <table className="w-full table-fixed" aria-label="History">
        <tbody>
          {view.history.map((row) => (
            <History key={row.id} row={row} />
          ))}
        </tbody>
      </table>
      <p className="flex gap-5 pt-3">
        {!view.isFirstPage && (
          <VantageLink href="/drafts" className="link-name">
            Newest
          </VantageLink>
        )}
        {view.older !== null && (
          <VantageLink href={`/drafts?before=${view.older}`} className="link-name">
            Older
          </VantageLink>
        )}
      </p>
    </section>
  )
}

function OpenDrafts({ view: { drafts } }: { readonly view: DraftsPageView }) {
  if (drafts.length === 0)
    return <p className="pb-2 text-soft">No draft is open: every change counts at once.</p>
  return (
    <table className="w-full" aria-label="Open drafts">
      <thead>
        <tr className="border-b border-base-content text-left text-soft">
          <th className="py-1 pr-4 font-normal">Open drafts</th>
          <th className="py-1 pr-4 text-right font-normal">Changes</th>
          <th className="py-1 pr-4 font-normal">Begun by</th>
          <th className="py-1 font-normal">What stands in its way</th>
        </tr>
      </thead>
      <tbody>
        {drafts.map(({ code, name, author, since, changes, conflicts, brokenProofs, planned, failure }) => (
          <tr key={code} className="border-b border-base-300">
            <td className="py-1.5 pr-4">
              <VantageLink
                href={`/drafts/${encodeURIComponent(code)}`}
                lookDraft={code}
                className="link-name"
              >
                {name}
              </VantageLink>
            </td>
            <td className="py-1.5 pr-4 text-right">{changes}</td>
            <td className="py-1.5 pr-4">
              {author} <span className="text-soft">on {since}</span>
            </td>
            <td className="py-1.5">
              {conflicts > 0 && (
                <b className="text-error">
                  {conflicts} {conflicts === 1 ? 'conflict' : 'conflicts'} with live.{' '}
                </b>
              )}
              {brokenProofs > 0 && (
                <b className="text-error">
                  {brokenProofs} {brokenProofs === 1 ? 'proof breaks' : 'proofs break'}.{' '}
                </b>
              )}
              {failure && <span className="text-error">{failure} </span>}
              {planned && <span className="text-accent">Published by itself on {planned}. </span>}
              {conflicts === 0 && brokenProofs === 0 && !failure && !planned && (
                <span className="text-soft">nothing</span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function History({ row }: { readonly row: HistoryRow }) {
  const { id, when, before, moved, author, note, records, isUndone, isFirst, changes } = row
  return (
    <>
      <tr className="border-b border-base-300 align-baseline">
        <td className="w-[170px] py-1.5 pr-3 text-soft">{when}</td>
        <td className="w-[110px] truncate py-1.5 pr-3">{author}</td>
        <td className="py-1.5 pr-3">
          <VantageLink
            href={changes ? '/drafts' : `/drafts?change=${id}`}
            aria-expanded={changes !== null}
            className={`link-name ${isUndone ? 'line-through' : ''}`}
          >
            {note}
          </VantageLink>{' '}
          <span className="text-xs text-soft">
            {records} {records === 1 ? 'record' : 'records'}
            {isUndone && ', undone since'}
          </span>
        </td>
        <td className="w-[270px] py-1.5 text-right whitespace-nowrap">
          {!isFirst && (
            <>
              <VantageLink href={moved} className="link-name">
                What it moved
              </VantageLink>
              <VantageLink href="/board" lookOn={before} lookDraft={null} className="pl-4 link-name">
                Board before
              </VantageLink>
              {!isUndone && (
                <span className="pl-4">
                  <UndoChange changeSet={id} note={note} />
                </span>
              )}
            </>
          )}
        </td>
      </tr>
      {changes && (
        <tr className="border-b border-base-300 bg-lifted">
          <td colSpan={4} className="px-4 py-2">
            <ul aria-label={`What “${note}” did`}>
              {changes.map(({ kind, id: record, title, href, noun, way, fields }) => (
                <li key={`${kind} ${record}`} className="border-b border-dotted border-base-300 py-1">
                  {href ? (
                    <VantageLink href={href} className="link-name">
                      {title}
                    </VantageLink>
                  ) : (
                    <b>{title}</b>
                  )}{' '}
                  <span className="text-xs text-soft">{noun}</span>{' '}
                  {way === 'changed'
                    ? fields
                        .map(({ name, from, to }) => `${name}: ${from || 'nothing'} → ${to || 'nothing'}`)
                        .join(' · ')
                    : way}
                </li>
              ))}
            </ul>
            {records > changes.length && (
              <p className="pt-1 text-soft">and {records - changes.length} more</p>
            )}
          </td>
        </tr>
      )}
    </>
  )
}
