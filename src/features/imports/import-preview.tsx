'use client'

import type { RowResult } from '@/server/imports/row-outcome'
import { useEffect, useState } from 'react'
import { leaveRows, matchColumnsAgain, rowsOf, writeImport } from './import-actions'
import { type ImportView, ROWS_A_PAGE, type RowsView } from './import-view'

type Shown = Exclude<RowResult, 'left-out'>

const TABS: readonly { readonly result: Shown; readonly name: string }[] = [
  { result: 'new', name: 'New' },
  { result: 'changed', name: 'Changed' },
  { result: 'unchanged', name: 'Unchanged' },
  { result: 'wrong', name: 'Wrong' },
]

interface ImportPreviewProps {
  readonly view: ImportView
  readonly progress: Extract<ImportView['progress'], { step: 'preview' }>
  readonly take: (act: () => Promise<ImportView | null>) => Promise<void>
}

/** What every row would do, before anything is written. */
export function ImportPreview({ view, progress, take }: ImportPreviewProps) {
  const { counts } = progress
  const [result, setResult] = useState<Shown>(
    () => TABS.find((tab) => counts[tab.result] > 0 && tab.result !== 'unchanged')?.result ?? 'unchanged',
  )
  const [page, setPage] = useState(0)
  const [shown, setShown] = useState<RowsView | null>(null)
  useEffect(() => {
    let current = true
    void rowsOf(view.id, result, page).then((rows) => current && setShown(rows))
    return () => {
      current = false
    }
  }, [view, result, page])
  const going = counts.new + counts.changed
  const isTaken = result === 'new' || result === 'changed'

  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 px-6 pb-1">
        <div role="tablist" aria-label="Rows by what they come to" className="flex gap-5">
          {TABS.map((tab) => (
            <button
              key={tab.result}
              type="button"
              role="tab"
              aria-selected={result === tab.result}
              className={`border-b-2 py-0.5 ${result === tab.result ? 'border-primary font-semibold' : 'border-transparent text-soft'}`}
              onClick={() => {
                setResult(tab.result)
                setPage(0)
              }}
            >
              {tab.name}{' '}
              <span className={tab.result === 'wrong' && counts.wrong > 0 ? 'text-error' : ''}>
                {counts[tab.result].toLocaleString('en')}
              </span>
            </button>
          ))}
        </div>
        {counts['left-out'] > 0 && <span className="text-soft">{counts['left-out']} left out</span>}
        {counts.wrong > 0 && (
          <a href={`/api/imports/${view.id}/wrong`} download className="link-name">
            Download the wrong rows
          </a>
        )}
      </div>
      {progress.notice && (
        <p role="status" className="mx-6 my-1 bg-warning px-3 py-1 text-warning-content">
          {progress.notice}
        </p>
      )}
      {view.branches.length > 0 && (
        <p className="px-6 py-1">
          <b>
            {view.branches.length} new {view.branches.length === 1 ? 'category' : 'categories'}:
          </b>{' '}
          {view.branches.slice(0, 6).map(({ path, nearest }, at) => (
            <span key={path}>
              {at > 0 && ', '}
              {path}
              {nearest && <span className="text-accent"> (is it {nearest}, which exists?)</span>}
            </span>
          ))}
          {view.branches.length > 6 && ` and ${view.branches.length - 6} more`}
        </p>
      )}
      <div className="min-h-0 flex-1 overflow-auto px-6">
        <table className="w-full">
          <thead className="sticky top-0 bg-base-100 text-left">
            <tr className="border-b border-base-content/80">
              {isTaken && <th className="w-14 py-1 pr-3">Take</th>}
              <th className="w-14 py-1 pr-3 text-right">Row</th>
              <th className="w-48 py-1 pr-4">{view.kind === 'products' ? 'SKU' : 'Item'}</th>
              <th className="py-1">{result === 'wrong' ? 'What is wrong' : 'What happens'}</th>
            </tr>
          </thead>
          <tbody>
            {shown?.rows.map((row) => (
              <tr key={row.number} className={`border-b border-base-300 ${row.leftOut ? 'text-soft' : ''}`}>
                {isTaken && (
                  <td className="py-1 pr-3">
                    <input
                      type="checkbox"
                      aria-label={`Take row ${row.number}, ${row.label}`}
                      checked={!row.leftOut}
                      onChange={() => void take(() => leaveRows(view.id, [row.number], !row.leftOut))}
                    />
                  </td>
                )}
                <td className="py-1 pr-3 text-right text-soft">{row.number}</td>
                <td className="py-1 pr-4 font-semibold">{row.label || '–'}</td>
                <td className={`py-1 ${result === 'wrong' ? 'text-error' : ''}`}>
                  {row.words || <span className="text-soft">nothing: it is so already</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {!shown && <p className="py-4 text-soft">Reading rows …</p>}
        {shown && shown.total === 0 && <p className="py-4 text-soft">No row comes to this.</p>}
      </div>
      <footer className="flex flex-wrap items-center gap-4 border-t border-base-300 px-6 py-2">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={going === 0}
          onClick={() => void take(() => writeImport(view.id))}
        >
          Import {going.toLocaleString('en')} {going === 1 ? 'row' : 'rows'}
        </button>
        <button
          type="button"
          className="link-name"
          onClick={() => void take(() => matchColumnsAgain(view.id))}
        >
          Back to the columns
        </button>
        <span className="text-soft">
          {counts.wrong > 0 ? 'Wrong rows stay behind. ' : ''}All of it is one change, which can be undone.
        </span>
        {shown && shown.total > ROWS_A_PAGE && (
          <span className="ml-auto flex items-baseline gap-3">
            <button
              type="button"
              className="link-name"
              disabled={page === 0}
              onClick={() => setPage(page - 1)}
            >
              Earlier
            </button>
            {page * ROWS_A_PAGE + 1}–{Math.min(shown.total, (page + 1) * ROWS_A_PAGE)} of{' '}
            {shown.total.toLocaleString('en')}
            <button
              type="button"
              className="link-name"
              disabled={(page + 1) * ROWS_A_PAGE >= shown.total}
              onClick={() => setPage(page + 1)}
            >
              Later
            </button>
          </span>
        )}
      </footer>
    </>
  )
}
