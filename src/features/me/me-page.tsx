'use client'

import type { Permission } from '@/core/staff/permission'
import { permissionWords } from '@/ui/format/permission-words'
import { NO_ANSWER } from '@/ui/format/no-answer'
import { type FormEvent, useState, useTransition } from 'react'
import { toast } from 'sonner'
import { changePassword, type OwnOutcome, signOut, signOutElsewhere } from './me-actions'
import { Field } from './field'
import { type PasskeyView, Passkeys } from './passkeys'
import { SecondFactor } from './second-factor'

export interface MeView {
  readonly name: string
  readonly email: string
  readonly role: string
  readonly permissions: readonly Permission[]
  /** "Accounts: Bee farms", "Prices: Jars"; empty where nothing is narrowed. */
  readonly narrowed: readonly string[]
  readonly isOpenDoor: boolean
  readonly hasSecondFactor: boolean
  readonly passkeys: readonly PasskeyView[]
  /** The name browsers keep passkeys for. */
  readonly passkeyHost: string
  readonly windows: readonly { readonly when: string; readonly about: string }[]
}

/** What I may do, and how I sign in. */
export function MePage({ view }: { readonly view: MeView }) {
  const {
    name,
    email,
    role,
    permissions,
    narrowed,
    isOpenDoor,
    windows,
    hasSecondFactor,
    passkeys,
    passkeyHost,
  } = view
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-10" aria-label="You">
      <h1 className="text-xl leading-7 font-semibold">
        {isOpenDoor ? 'You are the owner of this demo' : name}
      </h1>
      <p className="text-soft">
        {isOpenDoor
          ? 'Nobody is asked who they are here: whoever is at this machine may do everything. Start with --sign-in to be asked.'
          : `${email} · ${role}`}
      </p>
      <div className="grid max-w-5xl grid-cols-2 gap-x-14 pt-6">
        <section aria-label="What you may do">
          <h2 className="border-b border-base-content pb-1 font-semibold">What you may do</h2>
          <ul className="pt-2">
            {permissions.map((permission) => (
              <li key={permission} className="py-0.5">
                {permissionWords(permission)}
              </li>
            ))}
          </ul>
          {narrowed.map((words) => (
            <p key={words} className="pt-1 text-soft">
              {words}
            </p>
          ))}
        </section>
        {!isOpenDoor && (
          <div>
            <Password />
            <SecondFactor isOn={hasSecondFactor} />
            <Passkeys passkeys={passkeys} host={passkeyHost} />
            <Windows windows={windows} />
          </div>
        )}
      </div>
    </section>
  )
}

function Password() {
  const [problem, setProblem] = useState<string | null>(null)
  const [isBusy, start] = useTransition()
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = event.currentTarget
    const text = (field: string) => String(new FormData(form).get(field) ?? '')
    start(async () => {
      const outcome = await changePassword(text('current'), text('next')).catch((): OwnOutcome => ({
        ok: false,
        problem: NO_ANSWER,
      }))
      setProblem(outcome.ok ? null : outcome.problem)
      if (!outcome.ok) return
      form.reset()
      toast('Your password is changed. Other windows are signed out.')
    })
  }
  return (
    <section aria-label="Password">
      <h2 className="border-b border-base-content pb-1 font-semibold">Password</h2>
      <form onSubmit={submit} className="flex flex-col">
        <Field
          label="The present one"
          name="current"
          problem={null}
          autoComplete="current-password"
          isPassword
        />
        <Field
          label="A new one, of at least 10 characters"
          name="next"
          problem={problem}
          autoComplete="new-password"
          isPassword
        />
        <button type="submit" className="btn mt-3 self-start" disabled={isBusy}>
          Change the password
        </button>
      </form>
    </section>
  )
}

function Windows({ windows }: Pick<MeView, 'windows'>) {
  const [isBusy, start] = useTransition()
  return (
    <section className="pt-6" aria-label="Where you are signed in">
      <h2 className="border-b border-base-content pb-1 font-semibold">Where you are signed in</h2>
      <ul className="pt-2">
        {windows.map(({ when, about }, at) => (
          <li key={`${when} ${at}`} className="flex justify-between gap-4 py-0.5">
            <span className="truncate">{about}</span>
            <span className="whitespace-nowrap text-soft">since {when}</span>
          </li>
        ))}
      </ul>
      <div className="flex gap-5 pt-3">
        <form action={signOut}>
          <button type="submit" className="btn">
            Sign out
          </button>
        </form>
        {windows.length > 1 && (
          <button
            type="button"
            className="link-name"
            disabled={isBusy}
            onClick={() =>
              start(async () => {
                const outcome = await signOutElsewhere()
                if (outcome.ok) toast('Signed out everywhere else.')
              })
            }
          >
            Sign out everywhere else
          </button>
        )}
      </div>
    </section>
  )
}
