'use server'

import { isEmail } from '@/core/buyers/email'
import { isPermission, type Permission, withWhatTheyNeed } from '@/core/staff/permission'
import { WHAT_SHAPE, WHO_SHAPE } from '@/server/records/record-schema'
import { getSteppe } from '@/server/engine/steppe'
import { NUMBER, TEXT, THING } from '@/server/session/argument-shapes'
import { findDoer } from '@/server/session/doer'
import { type Doer } from '@/server/session/doing'
import { merchantAction } from '@/server/session/permit'
import { requestAddress } from '@/server/session/request-address'
import { noteAudit, type AuditNote } from '@/server/staff/audit'
import { findRole, keepRole } from '@/server/staff/role-rows'
import {
  addPerson,
  changePerson,
  findPerson,
  letGo,
  mailInvitation,
  type PersonChanged,
  takeBack,
} from '@/server/staff/staff-rows'
import { refresh } from 'next/cache'
import type { What } from '@/core/predicates/what'
import type { Who } from '@/core/predicates/who'

/** What came of it: what is wrong, and at which field; `open` is whose sheet to go on with. */
export type StaffOutcome =
  | { readonly ok: true; readonly open?: string }
  | { readonly ok: false; readonly problem: string; readonly field?: 'name' | 'email' | 'role' }

/** What a person's sheet sends. */
export interface PersonWanted {
  readonly name: string
  readonly role: string
  readonly who: Who | null
  readonly what: What | null
}

/** What a role's sheet sends. */
export interface RoleWanted {
  readonly name: string
  readonly permissions: readonly Permission[]
  readonly who: Who | null
  readonly what: What | null
}

const STALE: StaffOutcome = {
  ok: false,
  problem: 'Somebody changed this a moment ago. Reload to see it; what you typed is still here.',
}
const GONE: StaffOutcome = { ok: false, problem: 'There is nobody like that any more. Reload the page.' }
const LONGEST_NAME = 80

/** Invites somebody: they are mailed a link to set their password by. */
export const invite = merchantAction(
  'staff:manage',
  [TEXT, TEXT, TEXT],
  async (name: string, email: string, role: string): Promise<StaffOutcome> => {
    const wrong = nameProblem(name)
    if (wrong) return wrong
    if (!isEmail(email.trim()))
      return { ok: false, field: 'email', problem: 'Write it like nora@example.org.' }
    const refused = await whyNotGiven(role)
    if (refused) return { ok: false, field: 'role', problem: refused }
    const steppe = await getSteppe()
    const person = { name: name.trim(), email: email.trim().toLowerCase(), role, who: null, what: null }
    const id = await addPerson(steppe.database, person)
    if (id === null)
      return {
        ok: false,
        field: 'email',
        problem: 'Somebody has this address already: look for them on the left.',
      }
    await mailInvitation(steppe, { ...person, id })
    await note({ kind: 'person-invited', about: person.name, detail: await roleName(role) })
    refresh()
    return { ok: true, open: id }
  },
)

/** Changes what somebody may do, from their next click on. */
export const savePerson = merchantAction(
  'staff:manage',
  [TEXT, NUMBER, THING],
  async (id: string, seen: number, wanted: PersonWanted): Promise<StaffOutcome> => {
    const { database } = await getSteppe()
    const person = await findPerson(database, id)
    if (!person) return GONE
    const wrong = nameProblem(wanted.name)
    if (wrong) return wrong
    if (!isNarrowing(wanted)) return STALE
    const refused = (await whyNotGiven(wanted.role)) ?? (await whyNotTouched(person))
    if (refused) return { ok: false, field: 'role', problem: refused }
    const { role, who, what } = wanted
    const outcome = await changePerson({ database }, id, seen, { name: wanted.name.trim(), role, who, what })
    if (outcome !== 'changed') return refusal(outcome)
    await note({ kind: 'person-changed', about: person.name, detail: await roleName(role) })
    refresh()
    return { ok: true }
  },
)

/** Lets somebody in no more. */
export const endPerson = merchantAction('staff:manage', [TEXT], async (id: string): Promise<StaffOutcome> => {
  const { database } = await getSteppe()
  const person = await findPerson(database, id)
  if (!person) return GONE
  const refused = await whyNotTouched(person)
  if (refused) return { ok: false, problem: refused }
  const outcome = await letGo({ database }, id)
  if (outcome !== 'changed') return refusal(outcome)
  await note({ kind: 'person-left', about: person.name })
  refresh()
  return { ok: true }
})

/** Takes somebody back who left, or mails somebody the invitation again. */
export const openToPerson = merchantAction(
  'staff:manage',
  [TEXT],
  async (id: string): Promise<StaffOutcome> => {
    const steppe = await getSteppe()
    const person = await findPerson(steppe.database, id)
    if (!person) return GONE
    const refused = (await whyNotGiven(person.role)) ?? (await whyNotTouched(person))
    if (refused) return { ok: false, problem: refused }
    if (person.left) await takeBack(steppe, id)
    else await mailInvitation(steppe, person)
    await note({ kind: 'person-invited', about: person.name, detail: await roleName(person.role) })
    refresh()
    return { ok: true }
  },
)

/** Changes a role, for everybody who has it; without a code, makes a new one. */
export const saveRole = merchantAction(
  'staff:manage',
  [TEXT, NUMBER, THING],
  async (code: string, seen: number, wanted: RoleWanted): Promise<StaffOutcome> => {
    const wrong = nameProblem(wanted.name)
    if (wrong) return wrong
    if (!Array.isArray(wanted.permissions) || !wanted.permissions.every(isPermission) || !isNarrowing(wanted))
      return STALE
    const { database } = await getSteppe()
    const name = wanted.name.trim()
    const isNew = code === ''
    const made = isNew ? codeOf(name) : code
    const before = await findRole(database, made)
    if (isNew && before)
      return { ok: false, field: 'name', problem: 'There is a role of this name. Take another one.' }
    const permissions = withWhatTheyNeed(wanted.permissions)
    const refused = await whyNotHeld([...permissions, ...(before?.permissions ?? [])])
    if (refused) return { ok: false, problem: refused }
    const { who, what } = wanted
    if (!(await keepRole(database, { code: made, name, permissions, who, what }, isNew ? 0 : seen)))
      return STALE
    await note({ kind: 'role-changed', about: name, detail: permissions.join(' ') })
    refresh()
    return { ok: true, open: made }
  },
)

async function doerNow(): Promise<Doer> {
  const doer = await findDoer()
  if (!doer) throw new RangeError('nobody is known who does this')
  return doer
}

/** Nobody gives what they do not have, and only an owner makes another one. */
async function whyNotGiven(code: string): Promise<string | null> {
  const role = await findRole((await getSteppe()).database, code)
  if (!role) return 'Choose a role.'
  return whyNotHeld(role.permissions)
}

async function whyNotHeld(permissions: readonly Permission[]): Promise<string | null> {
  const doer = await doerNow()
  if (doer.narrowings.length > 0)
    return 'You work with a part of the store: whoever works with all of it does this.'
  return permissions.every((each) => doer.permissions.has(each))
    ? null
    : 'This gives more than you may do yourself. An owner can do it.'
}

/** Nobody changes what they may do themselves, nor somebody who may do more. */
async function whyNotTouched({
  id,
  role,
}: {
  readonly id: string
  readonly role: string
}): Promise<string | null> {
  const doer = await doerNow()
  if (id === doer.id) return 'What you may do yourself, somebody else changes.'
  return whyNotGiven(role)
}

function nameProblem(name: unknown): Extract<StaffOutcome, { readonly ok: false }> | null {
  const text = typeof name === 'string' ? name.trim() : ''
  if (text === '') return { ok: false, field: 'name', problem: 'Type a name.' }
  return text.length > LONGEST_NAME
    ? { ok: false, field: 'name', problem: `At most ${LONGEST_NAME} characters.` }
    : null
}

function isNarrowing({ who, what }: Pick<PersonWanted, 'who' | 'what'>): boolean {
  const isOf = (shape: typeof WHO_SHAPE, value: unknown) =>
    value === null || shape.validate(value, { convert: false }).error === undefined
  return isOf(WHO_SHAPE, who) && isOf(WHAT_SHAPE, what)
}

function refusal(outcome: Exclude<PersonChanged, 'changed'>): StaffOutcome {
  return outcome === 'stale'
    ? STALE
    : { ok: false, problem: 'This is the only owner. Make somebody else an owner first.' }
}

function codeOf(name: string): string {
  const plain = name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
  return plain === '' ? 'role' : plain.slice(0, 40)
}

async function roleName(code: string): Promise<string> {
  return (await findRole((await getSteppe()).database, code))?.name ?? code
}

async function note(event: Omit<AuditNote, 'who' | 'address'>): Promise<void> {
  const { database } = await getSteppe()
  await noteAudit(database, { ...event, who: (await doerNow()).name, address: await requestAddress() })
}
