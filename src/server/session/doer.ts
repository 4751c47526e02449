import 'server-only'

import type { Permission } from '@/core/staff/permission'
import { PERMISSIONS } from '@/core/staff/permission'
import type { Narrowing } from '@/core/staff/role'
import { eq } from 'drizzle-orm'
import { headers } from 'next/headers'
import { AsyncLocalStorage } from 'node:async_hooks'
import { cache } from 'react'
import { isLoopbackHost } from '../doors/outer-door'
import { staff } from '../database/staff-schema'
import { getSteppe } from '../engine/steppe'
import { findRole } from '../staff/role-rows'
import { signInEngine } from '../staff/sign-in-engine'

/** Who does something on the merchant's side, and what they may. */
export interface Doer {
  /** Id of the person, or of the key a program came with; `null` where nobody has to sign in. */
  readonly id: string | null
  readonly kind: 'person' | 'key' | 'open-door'
  /** Whose name stands in the history. */
  readonly name: string
  readonly email: string
  readonly role: string
  readonly permissions: ReadonlySet<Permission>
  /** Buyers and items must be within each of these. */
  readonly narrowings: readonly Narrowing[]
}

/** Where nobody has to sign in, whoever is at this machine is the owner. */
export const AT_THIS_MACHINE: Doer = {
  ...{ id: null, kind: 'open-door', name: 'Merchant', email: '', role: 'Owner' },
  permissions: new Set(PERMISSIONS),
  narrowings: [],
}

/** Whether nobody has to sign in here: in a demo, for whoever comes by one of this machine's own names. */
export function isDoorOpen(host: string | null): boolean {
  const setting = process.env['STEPPE_SIGN_IN'] ?? (process.env['STEPPE_DEMO'] ? 'off' : 'on')
  return setting === 'off' && !process.env['STEPPE_HOSTS'] && isLoopbackHost(host ?? '')
}

// The framework evaluates this module several times in one process.
const HELD = Symbol.for('steppe.doing')
const holder = globalThis as { [HELD]?: AsyncLocalStorage<Doer> }
const doing = (holder[HELD] ??= new AsyncLocalStorage<Doer>())

/** Does something in the name of somebody. */
export function doAs<Result>(doer: Doer, act: () => Result): Result {
  return doing.run(doer, act)
}

/** Who does what is being done; `null` for nobody who is known. */
export async function findDoer(): Promise<Doer | null> {
  return doing.getStore() ?? readDoer()
}

/** Read once for all that ask while one page is drawn. */
const readDoer = cache(async (): Promise<Doer | null> => {
  const given = await headers()
  if (isDoorOpen(given.get('host'))) return AT_THIS_MACHINE
  if (!given.get('cookie')?.includes('steppe.session_token')) return null
  const steppe = await getSteppe()
  const engine = await signInEngine(steppe)
  const session = await engine.api.getSession({ headers: given })
  if (!session) return null
  const person = await steppe.database.query.staff.findFirst({ where: eq(staff.id, session.user.id) })
  return person && person.left === null ? personAsDoer(person) : null
})

async function personAsDoer(person: typeof staff.$inferSelect): Promise<Doer> {
  const role = await findRole((await getSteppe()).database, person.role)
  const { id, name, email, who, what } = person
  return {
    ...{ id, kind: 'person', name, email, role: role?.name ?? '' },
    permissions: new Set(role?.permissions ?? []),
    narrowings: [...(role ? [role] : []), { who, what }].filter(
      (each) => each.who !== null || each.what !== null,
    ),
  }
}
