'use client'

import { readEnd, writeEnd, writeLocal } from '@/core/predicates/schedule-text'
import { useReady } from '@/ui/frame/use-ready'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import { type ReactNode, useState, useTransition } from 'react'
import type { TaxesView } from './load-taxes'
import { FIELD, PLACE_FIELDS } from './place-fields'
import { type RateRow, placeKey } from './rates-text'
import { TryStrip } from './try-strip'
import { pasteRates, type RatesOutcome, setRate } from './save-rates'

interface TaxesPageProps {
  readonly view: TaxesView
  readonly tabs: ReactNode
}

/** Rates by place, and a strip to try what tax falls on what, where. */
export function TaxesPage({ view, tabs }: TaxesPageProps) {
  return (
    <section
      className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8"
      aria-label="Tax rates"
      data-ready={useReady()}
    >
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-2">
        <h1 className="text-xl leading-7 font-semibold">Taxes</h1>
        {tabs}
        <VantageLink href="/settings/store" className="ml-auto link-name">
          Tax settings
        </VantageLink>
      </header>
      <TryStrip view={view} />
      <Rates view={view} />
    </section>
  )
}

function Rates({ view }: { readonly view: TaxesView }) {
  const router = useRouter()
  const [isBusy, start] = useTransition()
  const [problems, setProblems] = useState<readonly string[]>([])
  const [pasting, setPasting] = useState<string | null>(null)
  const take = (act: () => Promise<RatesOutcome>, done?: () => void) =>
    start(async () => {
      const outcome = await act().catch((): RatesOutcome => ({
        ok: false,
        problems: ['The server did not answer. Nothing was changed.'],
      }))
      setProblems(outcome.ok ? [] : outcome.problems)
      if (!outcome.ok) return
      done?.()
      router.refresh()
    })
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pb-2">
        <span className="text-soft">
          Percent by place and class. For each tax the nearest place counts; several taxes add up.
        </span>
        <button
          type="button"
          className="btn ml-auto btn-sm"
          onClick={() => void navigator.clipboard.writeText(view.text)}
        >
          Copy for a spreadsheet
        </button>
        {view.live && (
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => setPasting(pasting === null ? '' : null)}
          >
            Paste from a spreadsheet
          </button>
        )}
      </p>
      {pasting !== null && (
        <div className="mb-3 border-l-4 border-warning pl-4">
          <label>
            <span className="text-soft">
              The first line names the columns as they stand below; a dash takes a rate away, an empty cell
              leaves it.
            </span>
            <textarea
              rows={6}
              className={`${FIELD} mt-1 w-full font-mono`}
              value={pasting}
              onChange={(event) => setPasting(event.target.value)}
            />
          </label>
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={isBusy || pasting.trim() === ''}
            onClick={() =>
              take(
                () => pasteRates(pasting, view.asOf),
                () => setPasting(null),
              )
            }
          >
            Take these rates over
          </button>
        </div>
      )}
      {problems.length > 0 && (
        <ul role="alert" className="pb-3 text-error">
          {problems.map((problem) => (
            <li key={problem}>{problem}</li>
          ))}
        </ul>
      )}
      <table className="w-full">
        <thead>
          <tr className="border-b border-base-300 text-left text-soft">
            {['Tax', 'Country', 'State', 'Postcode', 'City', 'From', 'To', 'Reason'].map((title) => (
              <th key={title} scope="col" className="py-1 pr-3 font-normal">
                {title}
              </th>
            ))}
            {view.columns.map((title) => (
              <th key={title} scope="col" className="py-1 pr-2 text-right font-normal">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {view.rows.map((row) => (
            <tr key={placeKey(row)} className="border-b border-dotted border-base-300">
              <th scope="row" className="py-0.5 pr-3 text-left font-semibold">
                {row.taxName}
              </th>
              <PlaceCells row={row} />
              {row.percents.map((percent, column) => (
                <td key={column} className="text-right">
                  <RateCell
                    key={percent}
                    label={`${row.taxName} ${view.columns[column]}, ${placeName(row)}`}
                    percent={percent}
                    disabled={!view.live || isBusy}
                    onSave={(text) => take(() => setRate(row, column, text, row.reason, view.asOf))}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {view.rows.length === 0 && (
        <p className="py-3 text-soft">
          No rates yet, so nothing is taxed. Make a class and a tax, then add the first place below.
        </p>
      )}
      {view.live && <NewRow view={view} isBusy={isBusy} take={take} />}
    </>
  )
}

function placeName({ city, postcode, state, country }: RateRow): string {
  return [city, postcode, state, country].filter(Boolean).join(', ') || 'everywhere'
}

function PlaceCells({ row }: { readonly row: RateRow }) {
  const cells = [
    row.country || 'any',
    row.state,
    row.postcode,
    row.city,
    writeLocal(row.from),
    writeEnd(row.to),
    row.reason,
  ]
  return cells.map((text, at) => (
    <td key={at} className="max-w-40 truncate pr-3">
      {text ?? ''}
    </td>
  ))
}

interface RateCellProps {
  readonly label: string
  readonly percent: string
  readonly disabled: boolean
  readonly onSave: (text: string) => void
}

/** A figure typed over in place; Enter or leaving saves, Escape leaves it, nothing takes the rate away. */
function RateCell({ label, percent, disabled, onSave }: RateCellProps) {
  const [typed, setTyped] = useState(percent)
  const save = () => {
    if (typed.trim() !== percent) onSave(typed)
  }
  return (
    <input
      aria-label={label}
      className="w-20 border border-transparent bg-transparent px-2 py-0.5 text-right tabular-nums hover:border-base-300 focus:border-base-300 focus:bg-lifted"
      value={typed}
      placeholder="–"
      disabled={disabled}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') setTyped(percent)
      }}
    />
  )
}

interface NewRowProps {
  readonly view: TaxesView
  readonly isBusy: boolean
  readonly take: (act: () => Promise<RatesOutcome>, done?: () => void) => void
}

function NewRow({ view: { taxes, columns, asOf }, isBusy, take }: NewRowProps) {
  const [column, setColumn] = useState(columns.length > 1 ? 1 : 0)
  if (taxes.length === 0) return null
  return (
    <form
      className="flex flex-wrap items-baseline gap-2 pt-3"
      onSubmit={(event) => {
        event.preventDefault()
        const form = event.currentTarget
        const fields = new FormData(form)
        const text = (name: string) => String(fields.get(name) ?? '').trim()
        const date = (name: string) => (text(name) === '' ? null : `${text(name)}T00:00`)
        const place = {
          tax: text('tax'),
          country: text('country').toUpperCase(),
          state: text('state').toUpperCase(),
          postcode: text('postcode').toUpperCase(),
          city: text('city'),
          from: date('from'),
          to: readEnd(text('to')) ?? null,
        }
        take(
          () => setRate(place, column, text('percent') || 'nothing', text('reason'), asOf),
          () => form.reset(),
        )
      }}
    >
      <select name="tax" aria-label="Tax" className={FIELD}>
        {taxes.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </select>
      {PLACE_FIELDS.map(([name, label, width]) => (
        <input
          key={name}
          name={name}
          placeholder={label}
          aria-label={`${label} of the new rate`}
          className={`${FIELD} ${width}`}
        />
      ))}
      <input name="from" type="date" aria-label="From" className={FIELD} />
      <input name="to" type="date" aria-label="To, itself outside" className={FIELD} />
      <select
        aria-label="Class of the new rate"
        className={FIELD}
        value={column}
        onChange={(event) => setColumn(Number(event.target.value))}
      >
        {columns.map((title, at) => (
          <option key={title} value={at}>
            {title}
          </option>
        ))}
      </select>
      <input name="percent" placeholder="%" aria-label="Percent" className={`${FIELD} w-20 text-right`} />
      <input
        name="reason"
        placeholder="Reason (required above 50 %)"
        aria-label="Reason"
        className={`${FIELD} w-40`}
      />
      <button type="submit" className="btn btn-primary btn-sm" disabled={isBusy}>
        Add a rate
      </button>
    </form>
  )
}
