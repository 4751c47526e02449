'use client'

import { useState } from 'react'
import { type SetUpInput, setUpStore } from './set-up-store'

const INPUT = 'border border-base-300 bg-lifted px-3 py-1.5'

/** The first page of an empty store: the few things everything else stands on. */
export function SetUpForm() {
  const [input, setInput] = useState<SetUpInput>({
    name: '',
    currency: 'EUR',
    country: 'IE',
    timeZone: 'Europe/Dublin',
    taxBasis: 'net',
  })
  const [problem, setProblem] = useState<string | null>(null)
  const field = (part: keyof SetUpInput, label: string, hint: string) => (
    <label className="flex flex-col gap-1">
      <span className="font-semibold">{label}</span>
      <input
        className={INPUT}
        autoFocus={part === 'name'}
        value={input[part]}
        onChange={(event) => setInput({ ...input, [part]: event.target.value })}
      />
      <span className="text-xs text-soft">{hint}</span>
    </label>
  )
  return (
    <main className="mx-auto max-w-xl px-8 py-14">
      <h1 className="text-2xl leading-8 font-semibold">An empty store</h1>
      <p className="pt-1 pb-6 text-soft">
        Prices need a currency and a place to stand. Products, groups and price lists come next, one step at a
        time.
      </p>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          void setUpStore(input).then(setProblem)
        }}
      >
        {field('name', 'What is the store called?', 'Buyers see it in the shop.')}
        {field(
          'currency',
          'Which currency are prices kept in?',
          'ISO 4217, such as EUR. Others can be added, with rates.',
        )}
        {field('country', 'Where is it sold from?', 'Two letters, such as IE.')}
        {field('timeZone', 'In which time zone do days begin?', 'Its IANA name, such as Europe/Dublin.')}
        <fieldset className="flex gap-6">
          <legend className="pb-1 font-semibold">Prices are entered</legend>
          {(
            [
              ['net', 'without tax'],
              ['gross', 'with tax'],
            ] as const
          ).map(([value, name]) => (
            <label key={value} className="flex items-center gap-2">
              <input
                type="radio"
                name="taxBasis"
                checked={input.taxBasis === value}
                onChange={() => setInput({ ...input, taxBasis: value })}
              />
              {name}
            </label>
          ))}
        </fieldset>
        {problem && (
          <p role="alert" className="text-error">
            {problem}
          </p>
        )}
        <button type="submit" className="btn self-start btn-primary btn-sm">
          Open the store
        </button>
      </form>
    </main>
  )
}
