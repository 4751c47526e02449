import 'server-only'

import { and, eq, isNull } from 'drizzle-orm'
import { createHash, randomInt } from 'node:crypto'
import { currentInstant } from '../clock'
import { secrets } from '../database/door-schema'
import type { Database } from '../database/database'
import { staff } from '../database/staff-schema'
import { OWNER } from '@/core/staff/role'

const NAME = 'owner-code'
/** Without letters and digits that are mistaken for others. */
const SIGNS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789'
const GROUPS = 3
const IN_A_GROUP = 4

/** Whether nobody is owner yet, so that whoever has the printed code can become it. */
export async function isFirstStart(database: Database): Promise<boolean> {
  const owner = await database.query.staff.findFirst({
    where: and(eq(staff.role, OWNER), isNull(staff.left)),
  })
  return owner === undefined
}

/** Makes the code whoever starts this installation becomes its owner by; one that was made before is worth nothing any more. */
export async function makeFirstCode(database: Database): Promise<string> {
  const group = () => Array.from({ length: IN_A_GROUP }, () => SIGNS[randomInt(SIGNS.length)]).join('')
  const code = Array.from({ length: GROUPS }, group).join('-')
  const kept = { value: digestOf(code), at: currentInstant() }
  await database
    .insert(secrets)
    .values({ name: NAME, ...kept })
    .onConflictDoUpdate({ target: secrets.name, set: kept })
  return code
}

/** Takes the code that was printed, while nobody is owner: it opens once. Resolves to whether this was it. */
export async function takeFirstCode(database: Database, typed: string): Promise<boolean> {
  if (!(await isFirstStart(database))) return false
  const taken = await database
    .delete(secrets)
    .where(and(eq(secrets.name, NAME), eq(secrets.value, digestOf(typed))))
    .returning()
  return taken.length > 0
}

function digestOf(code: string): string {
  return createHash('sha256')
    .update(code.toUpperCase().replace(/[^A-Z0-9]/g, ''))
    .digest('hex')
}
