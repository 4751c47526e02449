'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { invite } from './staff-actions'
import type { RoleView } from './staff-view'
import { useStaffAction } from './use-staff-action'

const INPUT =
  'border-b border-primary bg-transparent px-1 font-semibold focus:bg-chosen aria-[invalid=true]:border-error'

/** Somebody new, as one sentence. */
export function NewPerson({ roles }: { readonly roles: readonly RoleView[] }) {
  const { href } = useFrame()
  const router = useRouter()
  const [name, setName] = useState('')
  const [email, setEmail] = useState('')
  const [role, setRole] = useState('pricing-editor')
  const { refused, isBusy, run } = useStaffAction()
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault()
        run(
          () => invite(name, email, role),
          `${name.trim()} is invited: a mail is on its way.`,
          (id) => router.push(href(`/staff?person=${id}`)),
        )
      }}
    >
      <h2 className="text-xl leading-7 font-semibold">Invite somebody</h2>
      <p className="max-w-3xl pt-3 text-lg leading-10">
        <input
          aria-label="Name"
          aria-invalid={refused?.field === 'name'}
          autoFocus
          placeholder="Name"
          className={`${INPUT} w-52`}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />{' '}
        signs in as{' '}
        <input
          aria-label="E-mail address"
          aria-invalid={refused?.field === 'email'}
          type="email"
          placeholder="nora@example.org"
          className={`${INPUT} w-64`}
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />{' '}
        and works as{' '}
        <RoleSelect role={role} roles={roles} isWrong={refused?.field === 'role'} onChange={setRole} />.
      </p>
      <p className="pt-1 text-soft">
        A mail with a link goes out at once; the link is good for three days. What they see can be narrowed
        afterwards.
      </p>
      {refused && (
        <p role="alert" className="pt-3 text-error">
          {refused.problem}
        </p>
      )}
      <button type="submit" className="btn mt-5 btn-primary" disabled={isBusy}>
        Invite
      </button>
    </form>
  )
}

interface RoleSelectProps {
  readonly role: string
  readonly roles: readonly RoleView[]
  readonly isWrong: boolean
  readonly disabled?: boolean
  readonly onChange: (role: string) => void
}

export function RoleSelect({ role, roles, isWrong, disabled = false, onChange }: RoleSelectProps) {
  return (
    <select
      aria-label="Role"
      aria-invalid={isWrong}
      disabled={disabled}
      className={`${INPUT} cursor-pointer disabled:cursor-default disabled:border-transparent disabled:opacity-100`}
      value={role}
      onChange={(event) => onChange(event.target.value)}
    >
      {roles.every(({ code }) => code !== role) && <option value={role}>no role</option>}
      {roles.map(({ code, name }) => (
        <option key={code} value={code}>
          {name}
        </option>
      ))}
    </select>
  )
}
