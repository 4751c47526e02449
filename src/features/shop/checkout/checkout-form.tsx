'use client'

import { startTransition, useActionState, useState, useTransition } from 'react'
import { useRouter } from 'next/navigation'
import { Sums } from '../cart/cart-sums'
import { checkOut, type CheckoutState, lookAtPlace, type PlaceOfOrder } from './checkout'
import type { CheckoutView } from './load-checkout'
import { Labelled, SHOP_INPUT as INPUT } from '../frame/labelled'
import { choosePayment } from '../cart/promotion-actions'

/** What taxes and delivery can depend on. */
const PLACE_FIELDS: ReadonlySet<string> = new Set(['postcode', 'city', 'state'])

type Field = 'name' | 'street' | 'postcode' | 'city' | 'state'
const FIELDS: readonly (readonly [field: Field, label: string, autoComplete: string])[] = [
  ['name', 'Name', 'name'],
  ['street', 'Street', 'street-address'],
  ['postcode', 'Postcode', 'postal-code'],
  ['city', 'City', 'address-level2'],
  ['state', 'State (where there is one)', 'address-level1'],
]

/** Where to, how it is paid, and what it comes to there. */
export function CheckoutForm({ view }: { readonly view: CheckoutView }) {
  const [state, order, isBusy] = useActionState<CheckoutState, FormData>(checkOut, {
    problems: {},
    typed: {},
  })
  const [chosen, setChosen] = useState({ name: view.name, ...view.address })
  const { problems } = state
  const [isMoving, move] = useTransition()
  const set = (field: string, value: string) => setChosen({ ...chosen, [field]: value })
  /** The taxes of another place are shown before anything is ordered. */
  const follow = (address: PlaceOfOrder) => move(() => lookAtPlace(address))
  return (
    <form
      noValidate
      // As an action the form would be emptied after every answer.
      onSubmit={(event) => {
        event.preventDefault()
        const form = new FormData(event.currentTarget)
        startTransition(() => order(form))
      }}
      className="grid gap-x-12 gap-y-8 lg:grid-cols-[1fr_20rem]"
    >
      <input type="hidden" name="seen" value={view.seen} />
      <div className="grid gap-8">
        <fieldset className="grid gap-3 sm:grid-cols-2">
          <legend className="pb-2 text-lg font-semibold">Delivery address</legend>
          {view.addresses.map((address) => (
            <button
              key={address.label}
              type="button"
              className="border border-base-300 px-3 py-2 text-left hover:bg-base-200"
              onClick={() => {
                setChosen({ ...chosen, ...address })
                follow({ ...chosen, ...address })
              }}
            >
              <b className="block">{address.label}</b>
              {[address.street, address.postcode, address.city, address.country].filter(Boolean).join(', ')}
            </button>
          ))}
          {FIELDS.map(([field, label, autoComplete]) => (
            <Labelled key={field} label={label} problem={problems[field]}>
              <input
                name={field}
                autoComplete={autoComplete}
                aria-invalid={problems[field] !== undefined}
                className={INPUT}
                value={chosen[field]}
                onChange={(event) => set(field, event.target.value)}
                onBlur={() => PLACE_FIELDS.has(field) && follow(chosen)}
              />
            </Labelled>
          ))}
          <Labelled label="Country" problem={problems['country']}>
            <select
              name="country"
              className={INPUT}
              value={chosen.country}
              onChange={(event) => {
                set('country', event.target.value)
                follow({ ...chosen, country: event.target.value, state: '' })
              }}
            >
              {view.countries.map(({ code, name }) => (
                <option key={code} value={code}>
                  {name}
                </option>
              ))}
            </select>
          </Labelled>
          {view.email === '' && (
            <Labelled label="E-mail" problem={problems['email']}>
              <input
                name="email"
                type="email"
                autoComplete="email"
                aria-invalid={problems['email'] !== undefined}
                className={INPUT}
                defaultValue={state.typed['email'] ?? ''}
              />
            </Labelled>
          )}
          <Labelled label="Your reference, if you have one" problem={problems['reference']}>
            <input
              name="reference"
              autoComplete="off"
              maxLength={60}
              className={INPUT}
              defaultValue={state.typed['reference'] ?? ''}
            />
          </Labelled>
        </fieldset>
        <Payment view={view} state={state} />
      </div>
      <section aria-label="Totals" aria-busy={isMoving} className={isMoving ? 'opacity-60' : ''}>
        <Sums view={view.cart} />
        {problems['total'] && (
          <p role="alert" className="mt-4 border-l-4 border-warning pl-3">
            {problems['total']}
          </p>
        )}
        {view.approvers !== '' && (
          <p className="mt-4 border-l-4 border-primary pl-3">
            This is more than you order alone. {view.approvers} decides, and you hear of it by mail.
            <input type="hidden" name="approval" value="1" />
          </p>
        )}
        <button type="submit" className="btn mt-6 w-full btn-primary" disabled={isBusy}>
          {view.approvers === '' ? 'Place order' : 'Send for approval'}
        </button>
        <p className="pt-2 text-soft">Card payments are simulated: nothing is charged.</p>
      </section>
    </form>
  )
}

function Payment({ view, state }: { readonly view: CheckoutView; readonly state: CheckoutState }) {
  const router = useRouter()
  const [way, setWay] = useState(view.payment ?? (view.terms === '' ? 'card' : 'terms'))
  // What depends on how one pays is shown before anything is ordered.
  const choose = (next: 'card' | 'terms') => {
    setWay(next)
    void choosePayment(next).then(() => router.refresh())
  }
  return (
    <fieldset className="grid max-w-md gap-2">
      <legend className="pb-2 text-lg font-semibold">Payment</legend>
      {view.terms !== '' && (
        <label className="flex gap-2">
          <input
            type="radio"
            name="payment"
            value="terms"
            checked={way === 'terms'}
            onChange={() => choose('terms')}
          />
          on account, {view.terms}
        </label>
      )}
      <label className="flex gap-2">
        <input
          type="radio"
          name="payment"
          value="card"
          checked={way === 'card'}
          onChange={() => choose('card')}
        />
        by card (simulated)
      </label>
      {way === 'card' && view.approvers === '' && (
        <Labelled label="Card number" problem={state.problems['card']}>
          <input
            name="card"
            inputMode="numeric"
            aria-invalid={state.problems['card'] !== undefined}
            className={INPUT}
            defaultValue={state.typed['card'] ?? ''}
          />
        </Labelled>
      )}
      {state.problems['payment'] && (
        <p role="alert" className="text-error">
          {state.problems['payment']}
        </p>
      )}
    </fieldset>
  )
}
