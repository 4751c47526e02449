'use client'

import { usePathname } from 'next/navigation'
import { choosePlace } from './shop-actions'
import type { ShopChoices } from '../frame/shop-view'

/** Where things are delivered and what they are paid in: prices follow at once. */
export function PlaceChooser({ choices }: { readonly choices: ShopChoices }) {
  const path = usePathname()
  const submit = (event: React.ChangeEvent<HTMLSelectElement>) => event.target.form?.requestSubmit()
  return (
    <form action={choosePlace} className="flex items-baseline gap-2 whitespace-nowrap">
      <input type="hidden" name="back" value={path} />
      <label>
        Deliver to{' '}
        <select
          key={choices.country}
          name="country"
          defaultValue={choices.country}
          className="max-w-28 cursor-pointer bg-transparent font-semibold text-base-content"
          onChange={submit}
        >
          {choices.countries.map(({ code, name }) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <label>
        paying in{' '}
        <select
          key={choices.currency}
          name="currency"
          defaultValue={choices.currency}
          className="max-w-28 cursor-pointer bg-transparent font-semibold text-base-content"
          onChange={submit}
        >
          <option value="">{choices.following}</option>
          {choices.currencies
            .filter((code) => code !== choices.following)
            .map((code) => (
              <option key={code} value={code}>
                {code}
              </option>
            ))}
        </select>
      </label>
      <noscript>
        <button type="submit">Change</button>
      </noscript>
    </form>
  )
}
