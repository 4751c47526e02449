'use client'

import { permissionWords } from '@/ui/format/permission-words'
import { useState } from 'react'
import { NarrowingWords } from './narrowing-words'
import { RoleSelect } from './new-person'
import { endPerson, openToPerson, savePerson } from './staff-actions'
import type { NarrowingView, PersonView, RoleView } from './staff-view'
import { useStaffAction } from './use-staff-action'

/** What one person may do, as a sentence, and what follows from their role. */
export function PersonSheet({
  person,
  roles,
}: {
  readonly person: PersonView
  readonly roles: readonly RoleView[]
}) {
  const { id, name, email, standing, seen, version, isYou, hasSecondFactor } = person
  const [role, setRole] = useState(person.role)
  const [narrowing, setNarrowing] = useState<NarrowingView>(person)
  const { refused, isBusy, run } = useStaffAction()
  const chosen = roles.find(({ code }) => code === role)
  const isChanged = role !== person.role || narrowing !== person
  const isFixed = isYou || standing === 'left'
  return (
    <article aria-label={name}>
      <h2 className="text-xl leading-7 font-semibold">{name}</h2>
      <p className="text-soft">
        {email} · {seen}
        {hasSecondFactor && ' · with a second factor'}
      </p>
      <div className="pt-4">
        <NarrowingWords value={narrowing} disabled={isFixed} onChange={setNarrowing}>
          <b>{name}</b> works as{' '}
          <RoleSelect
            role={role}
            roles={roles}
            isWrong={refused?.field === 'role'}
            disabled={isFixed}
            onChange={setRole}
          />
          ,
        </NarrowingWords>
      </div>
      {refused && (
        <p role="alert" className="pt-3 text-error">
          {refused.problem}
        </p>
      )}
      {isYou && <p className="pt-2 text-soft">What you may do yourself, somebody else changes.</p>}
      {isChanged && (
        <div className="flex gap-3 pt-4">
          <button
            type="button"
            className="btn btn-primary"
            disabled={isBusy}
            onClick={() => {
              const { who, what } = narrowing
              run(
                () => savePerson(id, version, { name, role, who, what }),
                `Saved. It holds from ${name}’s next click on.`,
              )
            }}
          >
            Save
          </button>
          <button
            type="button"
            className="btn"
            onClick={() => {
              setRole(person.role)
              setNarrowing(person)
            }}
          >
            Leave it as it was
          </button>
        </div>
      )}
      {chosen && (
        <section className="pt-6" aria-label="What the role allows">
          <h3 className="border-b border-base-content pb-1 font-semibold">{chosen.name} allows</h3>
          <ul className="columns-2 gap-10 pt-2">
            {chosen.permissions.map((permission) => (
              <li key={permission} className="py-0.5">
                {permissionWords(permission)}
              </li>
            ))}
          </ul>
          {(chosen.who !== null || chosen.what !== null) && (
            <p className="pt-2 text-soft">
              The role itself sees {chosen.whoWords} and changes {chosen.whatWords}: both must hold.
            </p>
          )}
        </section>
      )}
      {!isYou && (
        <p className="flex gap-5 pt-8">
          {standing !== 'here' && (
            <button
              type="button"
              className="link-name"
              disabled={isBusy}
              onClick={() =>
                run(
                  () => openToPerson(id),
                  standing === 'left' ? `${name} may come in again.` : 'The invitation was mailed again.',
                )
              }
            >
              {standing === 'left' ? 'Take back' : 'Mail the invitation again'}
            </button>
          )}
          {standing !== 'left' && (
            <button
              type="button"
              className="text-error hover:underline"
              disabled={isBusy}
              onClick={() =>
                run(() => endPerson(id), `${name} is signed out everywhere, and comes in no more.`)
              }
            >
              Let {name} in no more
            </button>
          )}
        </p>
      )}
    </article>
  )
}
