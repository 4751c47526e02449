'use client'

import { type ReactNode, useActionState } from 'react'
import { comeByLink, enterAsBuyer, type EntranceState, setShopPassword } from './buyer-actions'

const BEGUN: EntranceState = { problem: null, email: '', told: '' }

/** Where buyers sign in: with a password, or by a link that is mailed to them. */
export function EntranceForm({ back }: { readonly back: string }) {
  const [state, submit, isBusy] = useActionState(enterAsBuyer, BEGUN)
  return (
    <Entrance state={state} submit={submit} title="Sign in" about="For people who buy for a company we know.">
      <input type="hidden" name="back" value={back} />
      <Field state={state} name="email" label="E-mail address" type="email" autoComplete="username" />
      <Field state={state} name="password" label="Password" type="password" autoComplete="current-password" />
      <div className="flex flex-wrap items-center gap-x-6 gap-y-3 pt-1">
        <button type="submit" name="by" value="password" className="btn btn-primary" disabled={isBusy}>
          Sign in
        </button>
        <button type="submit" name="by" value="link" className="link-name" disabled={isBusy}>
          Mail me a link instead
        </button>
        <button type="submit" name="by" value="password-link" className="link-name" disabled={isBusy}>
          Set a new password
        </button>
      </div>
    </Entrance>
  )
}

/** One click after the one on the mailed link. */
export function LinkForm({ word }: { readonly word: string }) {
  const [state, submit, isBusy] = useActionState(comeByLink, BEGUN)
  return (
    <Entrance
      state={state}
      submit={submit}
      title="Welcome back"
      about="The link you were mailed signs you in once."
    >
      <input type="hidden" name="word" value={word} />
      <button type="submit" className="btn self-start btn-primary" disabled={isBusy}>
        Go in
      </button>
    </Entrance>
  )
}

/** A password, by a mailed link. */
export function ShopPasswordForm({ word }: { readonly word: string }) {
  const [state, submit, isBusy] = useActionState(setShopPassword, BEGUN)
  return (
    <Entrance
      state={state}
      submit={submit}
      title="Set your password"
      about="At least 10 characters. A few words in a row are easy to keep in mind."
    >
      <input type="hidden" name="word" value={word} />
      <Field state={state} name="password" label="New password" type="password" autoComplete="new-password" />
      <button type="submit" className="btn self-start btn-primary" disabled={isBusy}>
        Set it, and go in
      </button>
    </Entrance>
  )
}

interface EntranceProps {
  readonly state: EntranceState
  readonly submit: (form: FormData) => void
  readonly title: string
  readonly about: string
  readonly children: ReactNode
}

function Entrance({ state: { problem, told }, submit, title, about, children }: EntranceProps) {
  return (
    <form action={submit} noValidate className="flex max-w-md flex-col gap-4">
      <h1 className="text-3xl leading-9 font-bold tracking-tight">{title}</h1>
      <p className="text-base text-soft">{about}</p>
      {problem?.field === '' && (
        <p role="alert" className="text-error">
          {problem.words}
        </p>
      )}
      {children}
      {told !== '' && (
        <p role="status" className="border-l-4 border-primary pl-3">
          {told}
        </p>
      )}
    </form>
  )
}

interface FieldProps {
  readonly state: EntranceState
  readonly name: 'email' | 'password'
  readonly label: string
  readonly type: string
  readonly autoComplete: string
}

function Field({ state: { problem, email }, name, label, type, autoComplete }: FieldProps) {
  const isWrong = problem?.field === name
  return (
    <label className="block">
      <span className="font-semibold">{label}</span>
      <input
        key={isWrong ? 'again' : 'first'}
        name={name}
        type={type}
        autoComplete={autoComplete}
        autoFocus={isWrong}
        defaultValue={name === 'email' ? email : ''}
        aria-invalid={isWrong}
        maxLength={254}
        className={`mt-1 w-full border bg-lifted px-3 py-2 text-base ${isWrong ? 'border-error' : 'border-base-300'}`}
      />
      {isWrong && (
        <span role="alert" className="block pt-1 text-error">
          {problem.words}
        </span>
      )}
    </label>
  )
}
