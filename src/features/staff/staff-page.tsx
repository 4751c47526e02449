'use client'

import { VantageLink } from '@/ui/frame/vantage-link'
import { NewPerson } from './new-person'
import { PersonSheet } from './person-sheet'
import { RoleSheet } from './role-sheet'
import type { StaffView } from './staff-view'

/** Who works here and what they may do: people and roles at the left, one of them at the right. */
export function StaffPage({ view }: { readonly view: StaffView }) {
  const { people, roles, open } = view
  const here = people.filter(({ standing }) => standing !== 'left')
  const left = people.filter(({ standing }) => standing === 'left')
  return (
    <section className="flex min-h-0 flex-1" aria-label="People">
      <div className="flex min-h-0 w-80 shrink-0 flex-col overflow-auto border-r border-base-300 pt-3 pb-4">
        <div className="flex items-baseline gap-4 px-6 pb-2">
          <h1 className="text-xl leading-7 font-semibold">People</h1>
          <VantageLink href="/staff?new=1" className="link-name">
            Invite somebody
          </VantageLink>
        </div>
        {here.length === 0 && (
          <p className="px-6 pb-3 text-soft">Nobody has been invited yet. You are the owner of this demo.</p>
        )}
        <ul aria-label="People">
          {[...here, ...left].map(({ id, name, roleName, seen, standing }) => (
            <Row
              key={id}
              href={`/staff?person=${id}`}
              isOpen={open.kind === 'person' && open.person.id === id}
              name={name}
              about={standing === 'left' ? 'left' : roleName}
              under={seen}
              isPale={standing === 'left'}
            />
          ))}
        </ul>
        <div className="flex items-baseline gap-4 px-6 pt-5 pb-2">
          <h2 className="font-semibold">Roles</h2>
        </div>
        <ul aria-label="Roles">
          {roles.map(({ code, name, people: having }) => (
            <Row
              key={code}
              href={`/staff?role=${code}`}
              isOpen={open.kind === 'role' && open.role.code === code}
              name={name}
              about={having.length === 0 ? 'nobody' : String(having.length)}
              under=""
              isPale={false}
            />
          ))}
        </ul>
      </div>
      <div className="min-h-0 min-w-0 flex-1 overflow-auto px-8 pt-3 pb-10">
        {open.kind === 'person' && (
          <PersonSheet
            key={`${open.person.id} ${open.person.version} ${open.person.standing}`}
            person={open.person}
            roles={roles}
          />
        )}
        {open.kind === 'role' && (
          <RoleSheet
            key={`${open.role.code} ${open.role.version}`}
            role={open.role}
            mayGive={view.mayGive}
            names={roles.map(({ name }) => name)}
          />
        )}
        {open.kind === 'new-person' && <NewPerson roles={roles} />}
        {open.kind === 'nothing' && (
          <p className="pt-12 text-soft">
            Choose somebody to see what they may do, or a role to see what everybody who has it may do.
          </p>
        )}
      </div>
    </section>
  )
}

interface RowProps {
  readonly href: string
  readonly isOpen: boolean
  readonly name: string
  readonly about: string
  readonly under: string
  readonly isPale: boolean
}

function Row({ href, isOpen, name, about, under, isPale }: RowProps) {
  return (
    <li>
      <VantageLink
        href={href}
        aria-current={isOpen ? 'true' : undefined}
        className={`block border-b border-dotted border-base-300 px-6 py-1.5 ${isOpen ? 'bg-chosen' : 'hover:bg-base-200'}`}
      >
        <span className="flex items-baseline justify-between gap-3">
          <b className={`truncate font-semibold ${isPale ? 'text-soft' : ''}`}>{name}</b>
          <span className="whitespace-nowrap text-soft">{about}</span>
        </span>
        {under !== '' && <span className="block truncate text-xs text-soft">{under}</span>}
      </VantageLink>
    </li>
  )
}
