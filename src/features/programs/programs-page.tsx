'use client'

import { KEY_SCOPES, type KeyScope } from '@/core/staff/key-scope'
import { NO_ANSWER } from '@/ui/format/no-answer'
import { scopeWords } from '@/ui/format/permission-words'
import { VantageLink } from '@/ui/frame/vantage-link'
import { type FormEvent, useState, useTransition } from 'react'
import { toast } from 'sonner'
import { endProgramKey, type KeyMade, makeProgramKey } from './program-actions'
import type { ProgramView } from './load-programs'

/** What programs come in with: a key for each, with what it may do. */
export function ProgramsPage({ programs }: { readonly programs: readonly ProgramView[] }) {
  const [isBusy, start] = useTransition()
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-10" aria-label="Programs">
      <h1 className="text-xl leading-7 font-semibold">Programs</h1>
      <p className="text-soft">
        A program sends its key with every request: <code>Authorization: Bearer …</code>{' '}
        <VantageLink href="/programs/addresses" className="link-name">
          What programs can ask
        </VantageLink>
      </p>
      <NewKey />
      {programs.length === 0 ? (
        <p className="pt-6 text-soft">No program has a key yet.</p>
      ) : (
        <ul className="max-w-5xl pt-6" aria-label="Keys">
          {programs.map(({ id, name, start: begins, scopes, perMinute, made, used, ends, isOver }) => (
            <li
              key={id}
              className={`flex items-baseline gap-6 border-b border-dotted border-base-300 py-2 ${isOver ? 'text-soft' : ''}`}
            >
              <span className="min-w-0 flex-1">
                <b className="font-semibold">{name}</b> may {scopes.map(scopeWords).join(', ')}, up to{' '}
                {perMinute} times a minute
                <span className="block text-xs text-soft">
                  <code>{begins}…</code> · {[made, used, ends].filter(Boolean).join(' · ')}
                </span>
              </span>
              {!isOver && (
                <button
                  type="button"
                  className="text-error hover:underline"
                  disabled={isBusy}
                  aria-label={`End the key ${name}`}
                  onClick={() =>
                    start(async () => {
                      const problem = await endProgramKey(id).catch(() => NO_ANSWER)
                      toast(problem ?? `The key “${name}” opens nothing any more.`)
                    })
                  }
                >
                  End it
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

const INPUT =
  'border-b border-primary bg-transparent px-1 font-semibold focus:bg-chosen aria-[invalid=true]:border-error'

function NewKey() {
  const [made, setMade] = useState<KeyMade | null>(null)
  const [scopes, setScopes] = useState<readonly KeyScope[]>(['prices:ask'])
  const [isBusy, start] = useTransition()
  const field = made?.ok === false ? made.field : null
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = event.currentTarget
    const text = (name: string) => String(new FormData(form).get(name) ?? '').trim()
    start(async () => {
      const days = text('days') === '' ? 0 : Number(text('days'))
      const outcome = await makeProgramKey(
        text('name'),
        scopes,
        asNumber(text('perMinute')),
        Number.isNaN(days) ? -1 : days,
      ).catch((): KeyMade => ({ ok: false, field: 'name', problem: NO_ANSWER }))
      setMade(outcome)
      if (outcome.ok) form.reset()
    })
  }
  return (
    <form onSubmit={submit} noValidate className="max-w-4xl pt-4">
      <p className="text-lg leading-10">
        <input
          aria-label="Which program"
          aria-invalid={field === 'name'}
          name="name"
          placeholder="Which program"
          className={`${INPUT} w-60`}
        />{' '}
        may{' '}
        {KEY_SCOPES.map((scope, at) => (
          <span key={scope}>
            {at > 0 && ', '}
            <label className="whitespace-nowrap">
              <input
                type="checkbox"
                className="checkbox mr-1.5 checkbox-sm"
                checked={scopes.includes(scope)}
                onChange={(event) =>
                  setScopes(
                    event.target.checked ? [...scopes, scope] : scopes.filter((each) => each !== scope),
                  )
                }
              />
              {scopeWords(scope)}
            </label>
          </span>
        ))}
        , up to{' '}
        <input
          aria-label="Times a minute"
          aria-invalid={field === 'perMinute'}
          name="perMinute"
          inputMode="numeric"
          defaultValue="600"
          className={`${INPUT} w-20`}
        />{' '}
        times a minute, for{' '}
        <input
          aria-label="For how many days"
          aria-invalid={field === 'days'}
          name="days"
          inputMode="numeric"
          placeholder="ever"
          className={`${INPUT} w-16`}
        />{' '}
        days.
      </p>
      {made?.ok === false && (
        <p role="alert" className="pt-2 text-error">
          {made.problem}
        </p>
      )}
      {made?.ok && (
        <p role="status" className="my-2 border-l-4 border-primary bg-chosen/50 px-3 py-2">
          Copy it now: nobody is shown it again.
          <code className="block pt-1 font-semibold break-all select-all">{made.key}</code>
        </p>
      )}
      <button type="submit" className="btn mt-2 btn-primary" disabled={isBusy}>
        Make a key
      </button>
    </form>
  )
}

/** What is no number is not sent as one. */
function asNumber(text: string): number {
  const number = Number(text)
  return text === '' || Number.isNaN(number) ? -1 : number
}
