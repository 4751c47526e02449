'use client'

import { spanPhrase } from '@/ui/format/rule-phrases'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useState } from 'react'
import { RATE_INPUT } from './inputs'
import type { TaxesView } from './load-taxes'
import { type RateRow, placeKey } from './rates-text'
import { type RatesOutcome, scheduleRates, setRate } from './save-rates'

interface RateTableProps {
  readonly view: TaxesView
  readonly tax: TaxesView['taxes'][number]
  readonly rows: readonly RateRow[]
  /** What each place is called, by its key. */
  readonly places: Readonly<Record<string, string>>
  readonly isBusy: boolean
  readonly take: (act: () => Promise<RatesOutcome>, done?: () => void) => void
}

/** The rates of one tax: a row a place, a column a class that it has rates for. */
export function RateTable({ view, tax, rows, places, isBusy, take }: RateTableProps) {
  const [coming, setComing] = useState<string | null>(null)
  const used = view.columns.flatMap((_title, at) => (rows.some((row) => row.percents[at] !== '') ? [at] : []))
  const columns = used.length > 0 ? used : [0]
  return (
    <table className="w-full">
      <thead>
        <tr className="border-b border-base-content text-right align-bottom">
          <th scope="col" className="py-1 text-left font-semibold">
            <VantageLink href={tax.href} className="link-name">
              {tax.name}
            </VantageLink>
            , percent
          </th>
          {columns.map((at) => (
            <th key={at} scope="col" className="w-24 font-semibold">
              {view.columns[at]}
              <span className="block text-xs font-normal text-soft">{view.variants[at]} variants</span>
            </th>
          ))}
          <th scope="col" className="pl-5 text-left font-semibold">
            When
          </th>
          <th scope="col" className="w-16 font-semibold">
            Accounts
          </th>
          <th className="w-32">
            <span className="sr-only">Change from a day</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row, index) => {
          const key = placeKey(row)
          const place = places[key] ?? ''
          const isSame = index > 0 && places[placeKey(rows[index - 1] as RateRow)] === place
          const isLater = row.from !== null && Date.parse(`${row.from}Z`) > view.at
          return (
            <tr key={key} className={`border-b border-base-300 ${isLater ? 'text-accent' : ''}`}>
              <th
                scope="row"
                className="py-0.5 text-left font-normal"
                style={{ paddingLeft: row.state || row.postcode || row.city ? '1.25rem' : undefined }}
              >
                {isSame ? `${place}, then` : place}
                {row.reason && <span className="block text-xs text-soft">{row.reason}</span>}
              </th>
              {columns.map((at) => (
                <td key={at} className="text-right">
                  <RateCell
                    key={row.percents[at]}
                    label={`${row.taxName} ${view.columns[at]}, ${place}${row.from ? ` from ${row.from.slice(0, 10)}` : ''}`}
                    percent={row.percents[at] ?? ''}
                    disabled={!view.live || isBusy}
                    onSave={(text) => take(() => setRate(row, at, text, row.reason, view.asOf))}
                  />
                </td>
              ))}
              <td className="pl-5">
                {row.from === null && row.to === null ? (
                  <span className="text-soft">always</span>
                ) : (
                  spanPhrase(row.from, row.to)
                )}
              </td>
              <td className="text-right text-soft">
                {row.state || row.postcode || row.city ? '' : (view.accounts[row.country] ?? '')}
              </td>
              <td className="pl-3">
                {view.live &&
                  row.to === null &&
                  (coming === key ? (
                    <ComingForm
                      view={view}
                      row={row}
                      place={place}
                      columns={columns}
                      isBusy={isBusy}
                      take={take}
                      onClose={() => setComing(null)}
                    />
                  ) : (
                    <button
                      type="button"
                      aria-label={`Other rates for ${place} from a day`}
                      className="link-name"
                      onClick={() => setComing(key)}
                    >
                      From a day …
                    </button>
                  ))}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

interface ComingFormProps extends Pick<RateTableProps, 'view' | 'isBusy' | 'take'> {
  readonly row: RateRow
  readonly place: string
  readonly columns: readonly number[]
  readonly onClose: () => void
}

/** Rates that follow from a coming day; the present ones end the day before. */
function ComingForm({ view, row, place, columns, isBusy, take, onClose }: ComingFormProps) {
  const [from, setFrom] = useState('')
  const [percents, setPercents] = useState(row.percents)
  return (
    <form
      className="absolute right-6 z-10 flex flex-wrap items-end gap-3 border border-accent bg-warning p-3 text-warning-content"
      aria-label={`Coming rates for ${place}`}
      onSubmit={(event) => {
        event.preventDefault()
        take(() => scheduleRates({ place: row, from, percents, reason: '' }, view.asOf), onClose)
      }}
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
    >
      <label>
        <span className="block text-xs">{place}, from</span>
        <input
          autoFocus
          placeholder="1 January 2027"
          className={`${RATE_INPUT} w-36`}
          value={from}
          onChange={(event) => setFrom(event.target.value)}
        />
      </label>
      {columns.map((at) => (
        <label key={at}>
          <span className="block text-xs">{view.columns[at]}, %</span>
          <input
            inputMode="decimal"
            className={`${RATE_INPUT} w-20 text-right`}
            value={percents[at]}
            onChange={(event) =>
              setPercents(percents.map((each, index) => (index === at ? event.target.value : each)))
            }
          />
        </label>
      ))}
      <button type="submit" className="btn btn-primary btn-sm" disabled={isBusy}>
        Schedule
      </button>
      <button type="button" className="btn btn-sm" onClick={onClose}>
        Cancel
      </button>
    </form>
  )
}

interface RateCellProps {
  readonly label: string
  readonly percent: string
  readonly disabled: boolean
  readonly onSave: (text: string) => void
}

/** A figure typed over in place; Enter or leaving saves, Escape leaves it, nothing removes the rate. */
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
