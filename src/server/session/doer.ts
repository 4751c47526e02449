import 'server-only'

import { PERMISSIONS } from '@/core/staff/permission'
import { sharedMemory } from '@/core/maps/shared-memory'
import { eq } from 'drizzle-orm'
import { createHash } from 'node:crypto'
import { headers } from 'next/headers'
import { cache } from 'react'
import { isLoopbackHost } from '../doors/outer-door'
import { staff, staffSessions } from '../database/staff-schema'
import { LatelyRead } from '../database/presence'
import { freshSteppe } from '../changes/follow'
import type { Steppe } from '../engine/steppe'
import { findRole } from '../staff/role-rows'
import { currentDoer, type Doer } from './doing'
import { buyersWithin } from './own-buyers'
import { signInEngine } from '../staff/sign-in-engine'

/** Where nobody has to sign in, whoever is at this machine is the owner. */
export const AT_THIS_MACHINE: Doer = {
  ...{ id: null, kind: 'open-door', name: 'Merchant', email: '', role: 'Owner' },
  permissions: new Set(PERMISSIONS),
  narrowings: [],
  buyers: null,
}

/** Whether nobody has to sign in here: in a demo, for whoever comes by one of this machine's own names. */
export function isDoorOpen(host: string | null): boolean {
  const setting = process.env['STEPPE_SIGN_IN'] ?? (process.env['STEPPE_DEMO'] ? 'off' : 'on')
  return setting === 'off' && !process.env['STEPPE_HOSTS'] && isLoopbackHost(host ?? '')
}

/** Who does what is being done; `null` for nobody who is known. */
export async function findDoer(): Promise<Doer | null> {
  return currentDoer() ?? readDoer()
}

const SESSION = /steppe\.session_token=([^;]+)/
/** Who came lately, so that they may go on looking while the database is gone. */
const LATELY = sharedMemory('lately-here', () => new LatelyRead<Doer | null>())

/** Read once for all that ask while one page is drawn. */
const readDoer = cache(async (): Promise<Doer | null> => {
  const given = await headers()
  if (isDoorOpen(given.get('host'))) return AT_THIS_MACHINE
  const word = SESSION.exec(given.get('cookie') ?? '')?.[1]
  if (!word) return null
  // Whether the database is there is known after this.
  const steppe = await freshSteppe()
  const key = createHash('sha256').update(word).digest('hex')
  return LATELY.read(steppe.presence, key, () => readPerson(steppe, given))
})

type ReadHeaders = Awaited<ReturnType<typeof headers>>

async function readPerson(steppe: Steppe, given: ReadHeaders): Promise<Doer | null> {
  const engine = await signInEngine(steppe)
  const session = await engine.api.getSession({ headers: given })
  if (!session || (await isForgotten(steppe, session.session))) return null
  const person = await steppe.database.query.staff.findFirst({ where: eq(staff.id, session.user.id) })
  return person && person.left === null ? personAsDoer(person) : null
}

/** A window nobody has used for so long (milliseconds) is nobody's any more. */
const FORGOTTEN_AFTER = 2 * 3_600_000
/** So often it is written down that one is used. */
const NOTED_EVERY = 300_000

/** Ends a session that has not been used for long, and notes that another is. Sessions go by the machine's own clock. */
async function isForgotten(
  { database }: Steppe,
  { id, updatedAt }: { readonly id: string; readonly updatedAt: Date },
): Promise<boolean> {
  const unused = Date.now() - updatedAt.getTime()
  if (unused < NOTED_EVERY) return false
  if (unused > FORGOTTEN_AFTER) {
    await database.delete(staffSessions).where(eq(staffSessions.id, id))
    return true
  }
  await database.update(staffSessions).set({ updatedAt: new Date() }).where(eq(staffSessions.id, id))
  return false
}

async function personAsDoer(person: typeof staff.$inferSelect): Promise<Doer> {
  const { database, prepared } = await freshSteppe()
  const role = await findRole(database, person.role)
  const { id, name, email, who, what } = person
  const narrowings = [...(role ? [role] : []), { who, what }].filter(
    (each) => each.who !== null || each.what !== null,
  )
  return {
    ...{ id, kind: 'person', name, email, role: role?.name ?? '', narrowings },
    permissions: new Set(role?.permissions ?? []),
    buyers: prepared && buyersWithin(prepared.store, narrowings),
  }
}
