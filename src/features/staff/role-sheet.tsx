'use client'

import { type Permission, withWhatTheyNeed } from '@/core/staff/permission'
import { useFrame } from '@/ui/frame/frame-context'
import { PERMISSION_GROUPS, permissionWords } from '@/ui/format/permission-words'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { NarrowingWords } from './narrowing-words'
import { saveRole } from './staff-actions'
import type { NarrowingView, RoleView } from './staff-view'
import { useStaffAction } from './use-staff-action'

interface RoleSheetProps {
  readonly role: RoleView
  readonly mayGive: readonly Permission[]
  /** Names of all roles, so that a copy gets one of its own. */
  readonly names: readonly string[]
}

/** What everybody who has a role may do. */
export function RoleSheet({ role, mayGive, names }: RoleSheetProps) {
  const { code, version, isOwner, people } = role
  const { href } = useFrame()
  const router = useRouter()
  const [name, setName] = useState(role.name)
  const [permissions, setPermissions] = useState<readonly Permission[]>(role.permissions)
  const [narrowing, setNarrowing] = useState<NarrowingView>(role)
  const { refused, isBusy, run } = useStaffAction()
  const isChanged =
    name.trim() !== role.name || narrowing !== role || permissions.join() !== role.permissions.join()
  const toggle = (permission: Permission, isOn: boolean) =>
    setPermissions(
      isOn
        ? withWhatTheyNeed([...permissions, permission])
        : // What needs it goes with it.
          permissions.filter((each) => !withWhatTheyNeed([each]).includes(permission)),
    )
  const wanted = { permissions, who: narrowing.who, what: narrowing.what }
  return (
    <article aria-label={role.name}>
      {isOwner ? (
        <h2 className="text-xl leading-7 font-semibold">{role.name}</h2>
      ) : (
        <input
          aria-label="Name of the role"
          aria-invalid={refused?.field === 'name'}
          className="w-96 border-b border-transparent bg-transparent text-xl leading-7 font-semibold hover:border-primary focus:border-primary focus:bg-chosen aria-[invalid=true]:border-error"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      )}
      <p className="text-soft">
        {people.length === 0 ? 'Nobody has this role.' : people.join(', ')}
        {isOwner && ' An owner may do everything; that cannot be changed.'}
      </p>
      {!isOwner && (
        <div className="pt-4">
          <NarrowingWords value={narrowing} disabled={false} onChange={setNarrowing}>
            Whoever has it
          </NarrowingWords>
        </div>
      )}
      <div className="grid max-w-4xl grid-cols-2 gap-x-12 gap-y-5 pt-5">
        {PERMISSION_GROUPS.map(([title, inGroup]) => (
          <fieldset key={title}>
            <legend className="w-full border-b border-base-content pb-1 font-semibold">{title}</legend>
            {inGroup.map((permission) => (
              <label key={permission} className="flex items-start gap-2 py-1">
                <input
                  type="checkbox"
                  className="checkbox mt-0.5 checkbox-sm"
                  checked={permissions.includes(permission)}
                  disabled={isOwner || permission === 'prices:look' || !mayGive.includes(permission)}
                  onChange={(event) => toggle(permission, event.target.checked)}
                />
                {permissionWords(permission)}
              </label>
            ))}
          </fieldset>
        ))}
      </div>
      {refused && (
        <p role="alert" className="pt-3 text-error">
          {refused.problem}
        </p>
      )}
      <p className="flex items-center gap-5 pt-6">
        {isChanged && (
          <>
            <button
              type="button"
              className="btn btn-primary"
              disabled={isBusy}
              onClick={() =>
                run(
                  () => saveRole(code, version, { ...wanted, name }),
                  'Saved. It holds from everybody’s next click on.',
                )
              }
            >
              Save the role
            </button>
            <button
              type="button"
              className="btn"
              onClick={() => {
                setName(role.name)
                setPermissions(role.permissions)
                setNarrowing(role)
              }}
            >
              Leave it as it was
            </button>
          </>
        )}
        <button
          type="button"
          className="link-name"
          disabled={isBusy}
          onClick={() => {
            const copy = copyName(role.name, names)
            run(
              () => saveRole('', 0, { ...wanted, name: copy }),
              `“${copy}” is a role of its own now.`,
              (made) => router.push(href(`/staff?role=${made}`)),
            )
          }}
        >
          Make a role of your own from it
        </button>
      </p>
    </article>
  )
}

function copyName(name: string, taken: readonly string[]): string {
  for (let at = 2; ; at += 1) if (!taken.includes(`${name} ${at}`)) return `${name} ${at}`
}
