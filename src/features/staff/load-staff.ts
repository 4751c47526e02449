import 'server-only'

import { OWNER, type Narrowing } from '@/core/staff/role'
import { getSettings, type Store } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'
import type { Doer } from '@/server/session/doing'
import { listRoles } from '@/server/staff/role-rows'
import { lastSeen, listStaff, peopleWithPassword, type StaffPerson } from '@/server/staff/staff-rows'
import { formatMoment } from '@/ui/format/instant'
import { whatSentence, whoSentence } from '@/ui/format/rule-phrases'
import type { NarrowingView, PersonView, RoleView, StaffView } from './staff-view'

/** Whose sheet is open, as an address says. */
export interface StaffShown {
  readonly person: string | null
  readonly role: string | null
  readonly isNew: boolean
}

export function parseStaff(fields: Readonly<Record<string, string | undefined>>): StaffShown {
  const text = (name: string) => fields[name]?.slice(0, 100) ?? null
  return { person: text('person'), role: text('role'), isNew: fields['new'] === '1' }
}

/** The people of the store and their roles. */
export async function loadStaff(
  { steppe, prepared }: Pick<RequestContext, 'steppe' | 'prepared'>,
  shown: StaffShown,
  doer: Doer,
): Promise<StaffView> {
  const { database } = steppe
  const { store } = prepared
  const [kept, roles, seen, settled] = await Promise.all([
    listStaff(database),
    listRoles(database),
    lastSeen(database),
    peopleWithPassword(database),
  ])
  const people = kept.map((person): PersonView => {
    const { id, name, email, role, version } = person
    return {
      ...{ id, name, email, role, version, ...narrowingView(person, store) },
      roleName: roles.find(({ code }) => code === role)?.name ?? 'no role',
      standing: person.left ? 'left' : settled.has(id) ? 'here' : 'invited',
      seen: seenWords(person, settled.has(id), seen.get(id), getSettings(store).timeZone),
      hasSecondFactor: person.twoFactorEnabled === true,
      isYou: id === doer.id,
    }
  })
  const views = roles.map((role): RoleView => {
    const { code, name, permissions, version } = role
    return {
      ...{ code, name, permissions, version, ...narrowingView(role, store) },
      isOwner: code === OWNER,
      people: people
        .filter((each) => each.role === code && each.standing !== 'left')
        .map((each) => each.name),
    }
  })
  return { people, roles: views, open: openOf(people, views, shown), mayGive: [...doer.permissions] }
}

function openOf(
  people: readonly PersonView[],
  roles: readonly RoleView[],
  { person, role, isNew }: StaffShown,
): StaffView['open'] {
  if (isNew) return { kind: 'new-person' }
  const openPerson = people.find(({ id }) => id === person)
  if (openPerson) return { kind: 'person', person: openPerson }
  const openRole = roles.find(({ code }) => code === role)
  return openRole ? { kind: 'role', role: openRole } : { kind: 'nothing' }
}

function narrowingView({ who, what }: Narrowing, store: Store): NarrowingView {
  return {
    ...{ who, what },
    whoWords: who === null ? 'every buyer' : whoSentence(who, store),
    whatWords: what === null ? 'everything' : whatSentence(what, store),
  }
}

function seenWords(person: StaffPerson, isSettled: boolean, at: Date | undefined, timeZone: string): string {
  if (person.left) return `left ${formatMoment(person.left.getTime(), timeZone)}`
  if (!isSettled) return 'invited, has not set a password yet'
  return at ? `signed in ${formatMoment(at.getTime(), timeZone)}` : 'signed in nowhere'
}
