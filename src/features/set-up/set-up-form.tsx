'use client'

import { useState } from 'react'
import { type SetUpInput, setUpStore } from './set-up-store'

/** Something to choose by name: its code, what it is called, and whether people are likely to look for it. */
interface Choice {
  readonly code: string
  readonly name: string
}

interface SetUpFormProps {
  readonly countries: readonly Choice[]
  readonly currencies: readonly Choice[]
  readonly timeZones: readonly string[]
}

const WORD =
  'max-w-72 cursor-pointer border-b border-primary bg-transparent pb-px font-semibold focus:bg-chosen aria-[invalid=true]:border-error'

/** The first page of an empty store: the few things everything else stands on, as one sentence. */
export function SetUpForm({ countries, currencies, timeZones }: SetUpFormProps) {
  const [input, setInput] = useState<SetUpInput>({
    name: '',
    currency: 'EUR',
    country: 'IE',
    timeZone: 'Europe/Dublin',
    taxBasis: 'net',
  })
  const [problem, setProblem] = useState<string | null>(null)
  const set = (part: Partial<SetUpInput>) => {
    setInput({ ...input, ...part })
    setProblem(null)
  }
  const soft = (text: string) => <span className="text-soft">{text}</span>
  return (
    <main className="mx-auto max-w-3xl px-8 py-16">
      <h1 className="text-2xl leading-8 font-semibold">Set up your store</h1>
      <p className="pt-1 pb-8 text-soft">
        Everything can be changed later. What you have is imported next: products, prices, buyers.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void setUpStore(input).then(setProblem)
        }}
      >
        <p className="text-lg leading-10">
          <input
            aria-label="What the store is called"
            aria-invalid={problem !== null && input.name.trim() === ''}
            autoFocus
            placeholder="Your store’s name"
            className={`${WORD} w-72 cursor-text`}
            value={input.name}
            onChange={(event) => set({ name: event.target.value })}
          />
          {soft(' sells from ')}
          <select
            aria-label="Country it sells from"
            className={WORD}
            value={input.country}
            onChange={(event) => set(followingOf(event.target.value, currencies, timeZones))}
          >
            {countries.map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </select>
          {soft(' in ')}
          <select
            aria-label="Currency of its prices"
            className={WORD}
            value={input.currency}
            onChange={(event) => set({ currency: event.target.value })}
          >
            {currencies.map(({ code, name }) => (
              <option key={code} value={code}>
                {name}, {code}
              </option>
            ))}
          </select>
          {soft(', on the time of ')}
          <select
            aria-label="Time zone"
            className={WORD}
            value={input.timeZone}
            onChange={(event) => set({ timeZone: event.target.value })}
          >
            {timeZones.map((zone) => (
              <option key={zone} value={zone}>
                {zone.replaceAll('_', ' ')}
              </option>
            ))}
          </select>
          {soft('. Prices are entered ')}
          <select
            aria-label="Whether prices are entered with tax"
            className={WORD}
            value={input.taxBasis}
            onChange={(event) => set({ taxBasis: event.target.value === 'gross' ? 'gross' : 'net' })}
          >
            <option value="net">without tax</option>
            <option value="gross">with tax</option>
          </select>
          {soft('.')}
        </p>
        {problem && (
          <p role="alert" className="pt-4 text-error">
            {problem}
          </p>
        )}
        <button type="submit" className="btn mt-8 btn-primary">
          Open the store
        </button>
      </form>
    </main>
  )
}

/** A country with the currency and the time zone that are most likely meant with it. */
function followingOf(
  country: string,
  currencies: readonly Choice[],
  timeZones: readonly string[],
): Partial<SetUpInput> {
  const [zone] = zonesOf(country).filter((each) => timeZones.includes(each))
  const currency = CURRENCY_OF[country]
  return {
    country,
    ...(zone !== undefined && { timeZone: zone }),
    ...(currency !== undefined && currencies.some(({ code }) => code === currency) && { currency }),
  }
}

/** Time zones of a country, the likeliest first; none where the browser cannot say. */
function zonesOf(country: string): readonly string[] {
  try {
    const locale = new Intl.Locale(`und-${country}`) as Intl.Locale & { getTimeZones?: () => string[] }
    return locale.getTimeZones?.() ?? []
  } catch {
    return []
  }
}

/** Currencies of countries that have one of their own or share the euro (from memory, checked against ISO 4217’s list). */
const EURO = 'AT BE CY DE EE ES FI FR GR HR IE IT LT LU LV MT NL PT SI SK'
const CURRENCY_OF: Readonly<Record<string, string>> = {
  ...Object.fromEntries(EURO.split(' ').map((country) => [country, 'EUR'])),
  AU: 'AUD',
  CA: 'CAD',
  CH: 'CHF',
  CZ: 'CZK',
  DK: 'DKK',
  GB: 'GBP',
  HU: 'HUF',
  JP: 'JPY',
  NO: 'NOK',
  NZ: 'NZD',
  PL: 'PLN',
  SE: 'SEK',
  US: 'USD',
}
