'use client'

import type { DecimalMark } from '@/core/decimal/written-amount'
import { useState } from 'react'
import type { FieldChoice, ImportView } from './import-view'

interface MatchColumnsProps {
  readonly view: ImportView
  /** Why the columns cannot be read as they are matched. */
  readonly problem: string | null
  readonly onRead: (matching: readonly (string | null)[], mark: DecimalMark) => Promise<void>
}

const SECTIONS: readonly FieldChoice['section'][] = ['Fields', 'Prices', 'Options', 'Attributes']

/** What each column of the file is, guessed from its heading. */
export function MatchColumns({ view, problem, onRead }: MatchColumnsProps) {
  const [matching, setMatching] = useState(() => view.columns.map(({ field }) => field))
  const [mark, setMark] = useState(view.mark)
  const [busy, setBusy] = useState(false)
  const unmatched = matching.filter((key) => key === null).length
  return (
    <form
      className="flex min-h-0 flex-1 flex-col"
      onSubmit={(event) => {
        event.preventDefault()
        setBusy(true)
        void onRead(matching, mark).finally(() => setBusy(false))
      }}
    >
      <p className="px-6 pb-2 text-soft">
        {unmatched === 0
          ? 'Every column is matched.'
          : `${unmatched} ${unmatched === 1 ? 'column is' : 'columns are'} left out.`}{' '}
        Empty cells leave a field as it is; <b>none</b> empties it.
        <label>
          {' '}
          Amounts are written like{' '}
          <select
            className="cursor-pointer bg-transparent word text-base-content"
            value={mark}
            onChange={(event) => setMark(event.target.value === 'comma' ? 'comma' : 'point')}
          >
            <option value="point">1,234.50</option>
            <option value="comma">1.234,50</option>
          </select>
        </label>
      </p>
      <div className="min-h-0 overflow-auto px-6">
        <table className="w-full max-w-5xl">
          <thead className="sticky top-0 bg-base-100 text-left">
            <tr className="border-b border-base-content/80">
              <th className="py-1 pr-4">Column of the file</th>
              <th className="py-1 pr-4">is</th>
              <th className="py-1">and begins with</th>
            </tr>
          </thead>
          <tbody>
            {view.columns.map(({ heading, samples }, at) => (
              <tr key={at} className="border-b border-base-300">
                <td className="max-w-56 truncate py-1 pr-4 font-semibold" title={heading}>
                  {heading}
                </td>
                <td className="py-0.5 pr-4">
                  <select
                    aria-label={`${heading} is`}
                    className={`w-60 border border-base-300 bg-lifted px-2 py-0.5 ${matching[at] === null ? 'text-soft' : ''}`}
                    value={matching[at] ?? ''}
                    onChange={(event) =>
                      setMatching(
                        matching.map((key, each) => (each === at ? event.target.value || null : key)),
                      )
                    }
                  >
                    <option value="">left out</option>
                    {SECTIONS.map((section) => {
                      const fields = view.fields.filter((field) => field.section === section)
                      return (
                        fields.length > 0 && (
                          <optgroup key={section} label={section}>
                            {fields.map(({ key, name }) => (
                              <option key={key} value={key}>
                                {name}
                              </option>
                            ))}
                          </optgroup>
                        )
                      )
                    })}
                  </select>
                </td>
                <td className="max-w-md truncate py-1 text-soft">{samples.join(' · ') || 'nothing'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <footer className="flex items-center gap-4 border-t border-base-300 px-6 py-2">
        <button type="submit" className="btn btn-primary btn-sm" disabled={busy}>
          Look at what changes
        </button>
        {problem ? (
          <p role="alert" className="text-error">
            {problem}
          </p>
        ) : (
          <p className="text-soft">Nothing is written yet.</p>
        )}
      </footer>
    </form>
  )
}
