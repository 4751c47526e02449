'use client'

import { type Decimal } from '@/core/decimal/decimal'
import type { SheetView } from '@/sheet/record/sheet-view'
import { RowButtons } from './row-buttons'
import { useWrittenRows } from './use-written-rows'

/** Somebody who signs in, as it is typed. */
interface TypedPerson {
  readonly name: string
  readonly email: string
  readonly approves: boolean
  readonly limit: string
}

interface PeopleCardsProps {
  readonly view: SheetView
  readonly people: readonly {
    readonly name: string
    readonly email: string
    readonly approves: boolean
    readonly limit: Decimal | null
    /** The limit as it is shown; empty without one. */
    readonly limitWords: string
  }[]
  /** Addresses that sign in and of whom nothing else is known. */
  readonly others: readonly string[]
  readonly currency: string
}

const INPUT = 'w-full border border-base-300 bg-lifted px-2 py-1'

/** Who orders for an account, who lets orders through, and up to which value others order alone. */
export function PeopleCards({ view, people, others, currency }: PeopleCardsProps) {
  const typed = people.map(({ name, email, approves, limit }): TypedPerson => ({
    ...{ name, email, approves },
    limit: limit ?? '',
  }))
  const rows = useWrittenRows(view, 'people', typed, {
    empty: { name: '', email: others[0] ?? '', approves: false, limit: '' },
    write: ({ name, email, approves, limit }) => [name, email, approves ? 'approves' : '', limit],
  })
  const { open, row: person, setRow, problem, begin } = rows
  const field = (part: 'name' | 'limit', title: string) => (
    <label className="block">
      <span className="text-xs text-soft">{title}</span>
      <input
        className={INPUT}
        autoFocus={part === 'name'}
        inputMode={part === 'limit' ? 'decimal' : undefined}
        value={person[part]}
        onChange={(event) => setRow({ ...person, [part]: event.target.value })}
      />
    </label>
  )
  return (
    <section className="pt-5" aria-label="People">
      <h2 className="flex gap-5 border-b border-base-content pb-1 font-semibold">
        People
        {view.live && others.length > 0 && (
          <button type="button" className="link-name" onClick={() => begin(people.length)}>
            Add a person
          </button>
        )}
      </h2>
      {people.length === 0 && others.length === 0 && (
        <p className="pt-2 text-soft">Nobody signs in for them yet: add an e-mail address above.</p>
      )}
      <ul className="flex flex-wrap gap-x-10 gap-y-3 pt-2">
        {people.map((each, at) => (
          <li key={each.email} className={open === at ? 'bg-chosen px-2' : ''}>
            <b>{each.name}</b>
            <span className="block">{each.email}</span>
            <span className="block text-soft">
              {each.approves
                ? 'lets orders through'
                : each.limitWords === ''
                  ? 'orders freely'
                  : `waits for approval above ${each.limitWords}`}
            </span>
            {view.live && (
              <button type="button" className="link-name" onClick={() => begin(at)}>
                Edit
              </button>
            )}
          </li>
        ))}
        {others.map((email) => (
          <li key={email}>
            <b>{email}</b>
            <span className="block text-soft">signs in, orders freely</span>
          </li>
        ))}
      </ul>
      {open !== null && (
        <form
          className="mt-3 grid max-w-2xl grid-cols-2 gap-x-4 gap-y-2 bg-chosen/50 p-4"
          aria-label="Person"
          onSubmit={(event) => {
            event.preventDefault()
            rows.save()
          }}
          onKeyDown={(event) => event.key === 'Escape' && rows.close()}
        >
          {field('name', 'Name')}
          <label className="block">
            <span className="text-xs text-soft">Signs in as</span>
            <select
              className={INPUT}
              value={person.email}
              onChange={(event) => setRow({ ...person, email: event.target.value })}
            >
              {[...new Set([person.email, ...others])].filter(Boolean).map((email) => (
                <option key={email}>{email}</option>
              ))}
            </select>
          </label>
          {field('limit', `Orders above wait for approval (${currency}, without tax); empty is never`)}
          <label className="flex items-end gap-2 pb-1">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={person.approves}
              onChange={(event) => setRow({ ...person, approves: event.target.checked })}
            />
            Lets orders of others through
          </label>
          <RowButtons rows={rows} isNew={open >= people.length} problem={problem} saves="Save person" />
        </form>
      )}
    </section>
  )
}
