'use client'

import { NO_ANSWER } from '@/ui/format/no-answer'
import { type FormEvent, useState, useTransition } from 'react'
import { toast } from 'sonner'
import { Field } from './field'
import { beginFactor, type BegunFactor, confirmFactor, endFactor, type OwnOutcome } from './me-actions'

/** A code of an app beside the password: set up in two steps, so that nobody locks themselves out. */
export function SecondFactor({ isOn }: { readonly isOn: boolean }) {
  const [begun, setBegun] = useState<Extract<BegunFactor, { readonly ok: true }> | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [isBusy, start] = useTransition()
  const submit =
    (act: (typed: string) => Promise<OwnOutcome>, told: string) => (event: FormEvent<HTMLFormElement>) => {
      event.preventDefault()
      const form = event.currentTarget
      start(async () => {
        const typed = String(new FormData(form).get('typed') ?? '')
        const outcome = await act(typed).catch((): OwnOutcome => ({ ok: false, problem: NO_ANSWER }))
        setProblem(outcome.ok ? null : outcome.problem)
        if (!outcome.ok) return
        form.reset()
        if (told !== '') {
          setBegun(null)
          toast(told)
        }
      })
    }
  const begin = async (password: string): Promise<OwnOutcome> => {
    const outcome = await beginFactor(password)
    if (!outcome.ok) return outcome
    setBegun(outcome)
    return { ok: true }
  }
  return (
    <section className="pt-6" aria-label="Second factor">
      <h2 className="border-b border-base-content pb-1 font-semibold">Second factor</h2>
      {begun ? (
        <form onSubmit={submit(confirmFactor, 'From now on a code is asked for, too.')} className="pt-2">
          <p>Scan this with an authenticator app, then type the six digits it shows.</p>
          <div className="flex gap-6 pt-3">
            <div
              role="img"
              aria-label="What the authenticator app scans"
              className="size-38 shrink-0 bg-white bg-cover"
              style={{ backgroundImage: `url("data:image/svg+xml,${encodeURIComponent(begun.picture)}")` }}
            />
            <div>
              <p className="text-soft">Or type this key into it:</p>
              <p className="w-64 font-mono text-xs break-all">{begun.key}</p>
              <p className="pt-2 text-soft">Keep these for when the app is lost; each opens once:</p>
              <p className="grid grid-cols-2 font-mono text-xs">
                {begun.spare.map((code) => (
                  <span key={code}>{code}</span>
                ))}
              </p>
            </div>
          </div>
          <Field label="The six digits" problem={problem} autoComplete="one-time-code" />
          <button type="submit" className="btn mt-2 btn-primary" disabled={isBusy}>
            Ask for it from now on
          </button>
        </form>
      ) : (
        <form
          onSubmit={isOn ? submit(endFactor, 'Your password alone signs you in.') : submit(begin, '')}
          className="pt-2"
        >
          <p className="text-soft">
            {isOn
              ? 'A code of your app is asked for beside your password.'
              : 'With a code of an app beside it, your password alone lets nobody in.'}
          </p>
          <Field label="Your password" problem={problem} autoComplete="current-password" isPassword />
          <button type="submit" className="btn mt-2" disabled={isBusy}>
            {isOn ? 'Do without the second factor' : 'Set up a second factor'}
          </button>
        </form>
      )}
    </section>
  )
}
