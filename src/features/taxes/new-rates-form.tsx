'use client'

import { useState } from 'react'
import { RATE_INPUT } from './inputs'
import type { TaxesView } from './load-taxes'
import { addRates, type RatesOutcome } from './save-rates'

interface NewRatesFormProps {
  readonly view: TaxesView
  readonly isBusy: boolean
  readonly take: (act: () => Promise<RatesOutcome>, done?: () => void) => void
}

/** A new place: which tax, where, and a percentage for each class. */
export function NewRatesForm({ view, isBusy, take }: NewRatesFormProps) {
  const { taxes, columns, asOf } = view
  const empty = { tax: taxes[0]?.code ?? '', where: '', from: '', to: '', reason: '' }
  const [isOpen, setOpen] = useState(false)
  const [fields, setFields] = useState(empty)
  const [percents, setPercents] = useState<readonly string[]>([])
  if (taxes.length === 0) return null
  if (!isOpen)
    return (
      <button type="button" className="py-2 link-name" onClick={() => setOpen(true)}>
        Add a place
      </button>
    )
  const field = (
    name: 'where' | 'from' | 'to' | 'reason',
    title: string,
    placeholder: string,
    width: string,
  ) => (
    <label>
      <span className="block text-xs text-soft">{title}</span>
      <input
        autoFocus={name === 'where'}
        placeholder={placeholder}
        className={`${RATE_INPUT} ${width}`}
        value={fields[name]}
        onChange={(event) => setFields({ ...fields, [name]: event.target.value })}
      />
    </label>
  )
  return (
    <form
      className="-mx-6 mt-3 flex flex-wrap items-end gap-3 border-y-2 border-secondary bg-base-100 px-6 py-3"
      aria-label="New place"
      onSubmit={(event) => {
        event.preventDefault()
        take(
          () => addRates({ ...fields, percents }, asOf),
          () => {
            setFields(empty)
            setPercents([])
            setOpen(false)
          },
        )
      }}
      onKeyDown={(event) => event.key === 'Escape' && setOpen(false)}
    >
      <label>
        <span className="block text-xs text-soft">Tax</span>
        <select
          className={RATE_INPUT}
          value={fields.tax}
          onChange={(event) => setFields({ ...fields, tax: event.target.value })}
        >
          {taxes.map(({ code, name }) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {field('where', 'Where', 'Ireland, or US-CA, Oakfell', 'w-52')}
      {columns.map((title, at) => (
        <label key={title}>
          <span className="block text-xs text-soft">{title}, %</span>
          <input
            inputMode="decimal"
            className={`${RATE_INPUT} w-20 text-right`}
            value={percents[at] ?? ''}
            onChange={(event) =>
              setPercents(
                columns.map((_, index) => (index === at ? event.target.value : (percents[index] ?? ''))),
              )
            }
          />
        </label>
      ))}
      {field('from', 'From', 'always', 'w-32')}
      {field('to', 'Until', 'no end', 'w-32')}
      {field('reason', 'Reason', 'required above 50 %', 'w-40')}
      <button type="submit" className="btn btn-primary btn-sm" disabled={isBusy}>
        Add
      </button>
      <button type="button" className="btn btn-sm" onClick={() => setOpen(false)}>
        Cancel
      </button>
    </form>
  )
}
