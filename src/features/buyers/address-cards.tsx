'use client'

import type { Address } from '@/core/buyers/buyer'
import { saveRecord } from '@/sheet/record/save/save-record'
import type { SheetView } from '@/sheet/record/sheet-view'
import { referenceTo } from '@/sheet/record/save/use-typed'
import { useFrame } from '@/ui/frame/frame-context'
import { useRouter } from 'next/navigation'
import { useState } from 'react'

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
  const [open, setOpen] = useState<number | null>(null)
  const [address, setAddress] = useState<Address>(EMPTY)
  const [problem, setProblem] = useState<string | null>(null)
  const router = useRouter()
  const { pricesChanged } = useFrame()
  const nameOf = (code: string) => countries.find((each) => each.code === code)?.name ?? code

  function begin(at: number): void {
    setOpen(at)
    setProblem(null)
    setAddress(addresses[at] ?? { ...EMPTY, country: countries[0]?.code ?? '' })
  }
  async function save(next: readonly Address[]): Promise<void> {
    const text = next
      .map((each) =>
        [each.label, each.street, each.postcode, each.city, each.state, each.country]
          .map((part) => part.replaceAll('|', '/').trim())
          .join(' | '),
      )
      .join('\n')
    const outcome = await saveRecord(referenceTo(view), { addresses: text })
    setProblem(outcome.ok ? null : outcome.problem)
    if (!outcome.ok) return
    setOpen(null)
    pricesChanged(outcome.changeSet)
    router.refresh()
  }
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
            const next = [...addresses]
            next[open] = address
            void save(next)
          }}
          onKeyDown={(event) => event.key === 'Escape' && setOpen(null)}
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
          <div className="col-span-2 flex flex-wrap items-center gap-3 pt-1">
            {problem && (
              <p role="alert" className="text-error">
                {problem}
              </p>
            )}
            <span className="ml-auto flex gap-3">
              {open < addresses.length && (
                <button
                  type="button"
                  className="text-error hover:underline"
                  onClick={() => void save(addresses.filter((_, at) => at !== open))}
                >
                  Remove
                </button>
              )}
              <button type="button" className="btn btn-sm" onClick={() => setOpen(null)}>
                Cancel
              </button>
              <button type="submit" className="btn btn-primary btn-sm">
                Save address
              </button>
            </span>
          </div>
        </form>
      )}
    </section>
  )
}
