'use client'

import { NO_ANSWER } from '@/ui/format/no-answer'
import { isPasskeyRefusal, usePasskeys } from '@/ui/frame/use-passkeys'
import { startRegistration, WebAuthnError } from '@simplewebauthn/browser'
import { type FormEvent, useState, useTransition } from 'react'
import { toast } from 'sonner'
import { Field } from './field'
import { addPasskey, dropPasskey, startPasskey } from './me-actions'

export interface PasskeyView {
  readonly id: string
  readonly name: string
  /** When it was added. */
  readonly since: string
}

interface PasskeysProps {
  readonly passkeys: readonly PasskeyView[]
  readonly host: string
}

/** A device that signs me in by itself, once it knows who holds it. */
export function Passkeys({ passkeys, host }: PasskeysProps) {
  const [problem, setProblem] = useState<{ readonly field: string; readonly words: string } | null>(null)
  const [isBusy, start] = useTransition()
  const here = usePasskeys(host)
  const add = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = event.currentTarget
    const text = (field: string) => String(new FormData(form).get(field) ?? '')
    start(async () => {
      const fault = await makePasskey(text('name'), text('password'))
      setProblem(fault)
      if (fault) return
      form.reset()
      toast('From now on this passkey signs you in.')
    })
  }
  const remove = ({ id, name }: PasskeyView) =>
    start(async () => {
      const outcome = await dropPasskey(id).catch(() => ({ ok: false, problem: NO_ANSWER }) as const)
      toast(outcome.ok ? `“${name}” signs you in no more.` : outcome.problem)
    })
  const wrong = (field: string) => (problem?.field === field ? problem.words : null)
  return (
    <section className="pt-6" aria-label="Passkeys">
      <h2 className="border-b border-base-content pb-1 font-semibold">Passkeys</h2>
      <p className="pt-2 text-soft">
        A passkey on your computer, phone or key signs you in without password and code: the device asks for
        your finger, face or PIN.
      </p>
      <ul className="pt-1">
        {passkeys.map((passkey) => (
          <li key={passkey.id} className="flex items-baseline justify-between gap-4 py-0.5">
            <span className="truncate">{passkey.name}</span>
            <span className="whitespace-nowrap text-soft">
              since {passkey.since}
              <button
                type="button"
                className="ml-4 link-name"
                disabled={isBusy}
                onClick={() => remove(passkey)}
                aria-label={`Remove the passkey ${passkey.name}`}
              >
                Remove
              </button>
            </span>
          </li>
        ))}
      </ul>
      {here === 'other-name' && (
        <p className="pt-1">
          Passkeys work where Steppe is opened as <b>{host}</b>.
        </p>
      )}
      {here === 'unknown-to-browser' && <p className="pt-1">This browser knows nothing of passkeys.</p>}
      {here === 'work' && (
        <form onSubmit={add} noValidate>
          <Field
            label="A name for this one"
            name="name"
            problem={wrong('name')}
            autoComplete="off"
            longest={60}
          />
          <Field
            label="Your password"
            name="password"
            problem={wrong('password')}
            autoComplete="current-password"
            isPassword
          />
          <button type="submit" className="btn mt-3" disabled={isBusy}>
            Add a passkey
          </button>
        </form>
      )}
    </section>
  )
}

/** Has the browser make a passkey and keeps it; what went wrong, by the field it stands beside. */
async function makePasskey(
  name: string,
  password: string,
): Promise<{ readonly field: string; readonly words: string } | null> {
  try {
    const begun = await startPasskey(name, password)
    if (!begun.ok) return { field: begun.field, words: begun.problem }
    const made = await startRegistration({ optionsJSON: begun.options })
    const kept = await addPasskey(name, made)
    return kept.ok ? null : { field: 'name', words: kept.problem }
  } catch (error) {
    if (!isPasskeyRefusal(error)) return { field: 'name', words: NO_ANSWER }
    const isThere =
      error instanceof WebAuthnError && error.code === 'ERROR_AUTHENTICATOR_PREVIOUSLY_REGISTERED'
    return {
      field: 'name',
      words: isThere ? 'This device has a passkey of yours already.' : 'No passkey was made. Try again.',
    }
  }
}
