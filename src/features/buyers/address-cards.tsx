'use client'

import type { Address } from '@/core/buyers/buyer'
import type { SheetView } from '@/sheet/record/sheet-view'
import { RowButtons } from './row-buttons'
import { useWrittenRows } from './use-written-rows'

interface AddressCardsProps {
  readonly view: SheetView
  readonly addresses: readonly Address[]
  /** Where the account itself is, which bills go to. */
  readonly seat: readonly string[]
  readonly countries: readonly { readonly code: string; readonly name: string }[]
}

const EMPTY: Address = { label: '', street: '', postcode: '', city: '', state: '', country: '' }
const INPUT = 'w-full border border-base-300 bg-lifted px-2 py-1'

/** The addresses of an account as cards, one of them open at a time. */
export function AddressCards({ view, addresses, seat, countries }: AddressCardsProps) {
  const rows = useWrittenRows(view, 'addresses', addresses, {
    empty: { ...EMPTY, country: countries[0]?.code ?? '' },
    write: ({ label, street, postcode, city, state, country }) => [
      label,
      street,
      postcode,
      city,
      state,
      country,
    ],
  })
  const { open, row: address, setRow: setAddress, problem, begin } = rows
  const nameOf = (code: string) => countries.find((each) => each.code === code)?.name ?? code

  const field = (part: keyof Address, title: string, className = '') => (
    <label className={`block ${className}`}>
      <span className="text-xs text-soft">{title}</span>
      <input
        className={INPUT}
        autoFocus={part === 'label'}
        value={address[part]}
        onChange={(event) => setAddress({ ...address, [part]: event.target.value })}
      />
    </label>
  )
  return (
    <section className="pt-5" aria-label="Addresses">
      <h2 className="flex gap-5 border-b border-base-content pb-1 font-semibold">
        Addresses
        {view.live && (
          <button type="button" className="link-name" onClick={() => begin(addresses.length)}>
            Add an address
          </button>
        )}
      </h2>
      <div className="flex flex-wrap gap-x-10 gap-y-3 pt-2">
        <address className="not-italic">
          <b>Seat</b> <span className="text-soft">bills go here</span>
          {seat.map((line) => (
            <span key={line} className="block">
              {line}
            </span>
          ))}
        </address>
        {addresses.map((each, at) => (
          <address key={at} className={`not-italic ${open === at ? 'bg-chosen px-2' : ''}`}>
            <b>{each.label || 'Address'}</b>
            <span className="block">{each.street}</span>
            <span className="block">
              {[each.postcode, each.city].filter(Boolean).join(' ')}
              {each.state && `, ${each.state}`}
            </span>
            <span className="block">{nameOf(each.country)}</span>
            {view.live && (
              <button type="button" className="link-name" onClick={() => begin(at)}>
                Edit
              </button>
            )}
          </address>
        ))}
      </div>
      {open !== null && (
        <form
          className="mt-3 grid max-w-2xl grid-cols-2 gap-x-4 gap-y-2 bg-chosen/50 p-4"
          aria-label="Address"
          onSubmit={(event) => {
            event.preventDefault()
            rows.save()
          }}
          onKeyDown={(event) => event.key === 'Escape' && rows.close()}
        >
          {field('label', 'Name, such as North yard')}
          {field('street', 'Street and number')}
          {field('postcode', 'Postcode')}
          {field('city', 'Town')}
          {field('state', 'State, where taxes need it')}
          <label className="block">
            <span className="text-xs text-soft">Country</span>
            <select
              className={INPUT}
              value={address.country}
              onChange={(event) => setAddress({ ...address, country: event.target.value })}
            >
              {countries.map(({ code, name }) => (
                <option key={code} value={code}>
                  {name}
                </option>
              ))}
            </select>
          </label>
          <RowButtons rows={rows} isNew={open >= addresses.length} problem={problem} saves="Save address" />
        </form>
      )}
    </section>
  )
}
