import 'server-only'

import { isPermission, PERMISSIONS, withWhatTheyNeed } from '@/core/staff/permission'
import { FIRST_ROLES, OWNER, type Role } from '@/core/staff/role'
import { and, asc, eq } from 'drizzle-orm'
import type { Database } from '../database/database'
import { roles } from '../database/staff-schema'

/** A role as it is kept, with how often it was changed. */
export type KeptRole = Role & { readonly version: number }

const OWNERS: KeptRole = {
  ...(FIRST_ROLES.find(({ code }) => code === OWNER) as Role),
  permissions: PERMISSIONS,
  version: 0,
}

/** Every role, the owner's first. A store nobody changed them in has those it begins with. */
export async function listRoles(database: Database): Promise<readonly KeptRole[]> {
  const kept = await database.select().from(roles).orderBy(asc(roles.name))
  const changed = new Map(kept.map((row) => [row.code, row]))
  const first = FIRST_ROLES.filter(({ code }) => code !== OWNER).map(
    (role) => toRole(changed.get(role.code)) ?? { ...role, version: 0 },
  )
  const own = kept
    .filter(({ code }) => FIRST_ROLES.every((role) => role.code !== code))
    .flatMap((row) => toRole(row) ?? [])
  return [OWNERS, ...first, ...own]
}

/** A role by its code; `null` for one there is none of, by which nobody may do anything. */
export async function findRole(database: Database, code: string): Promise<KeptRole | null> {
  if (code === OWNER) return OWNERS
  const row = await database.query.roles.findFirst({ where: eq(roles.code, code) })
  const first = FIRST_ROLES.find((role) => role.code === code)
  return toRole(row) ?? (first ? { ...first, version: 0 } : null)
}

/** Keeps a role as it is to be. Resolves to whether it was: not when somebody changed it since it was seen, nor the owner's. */
export async function keepRole(database: Database, role: Role, seen: number): Promise<boolean> {
  if (role.code === OWNER) return false
  const { code, name, permissions, who, what } = role
  const next = { name, permissions: withWhatTheyNeed(permissions), who, what, version: seen + 1 }
  if (seen === 0) {
    const made = await database
      .insert(roles)
      .values({ code, ...next })
      .onConflictDoNothing()
      .returning()
    return made.length > 0
  }
  const changed = await database
    .update(roles)
    .set(next)
    .where(and(eq(roles.code, code), eq(roles.version, seen)))
    .returning()
  return changed.length > 0
}

function toRole(row: typeof roles.$inferSelect | undefined): KeptRole | null {
  return row ? { ...row, permissions: withWhatTheyNeed(row.permissions.filter(isPermission)) } : null
}
