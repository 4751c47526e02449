import 'server-only'

import { randomBytes } from 'node:crypto'
import { currentInstant } from '../clock'
import { secrets } from '../database/door-schema'
import type { Database } from '../database/database'

/** A word this installation keeps to itself, made when it is first asked for; the same for every process of it. */
export async function secretWord(database: Database, name: string): Promise<string> {
  const find = () => database.query.secrets.findFirst({ where: (secret, { eq }) => eq(secret.name, name) })
  const known = await find()
  if (known) return known.value
  const value = randomBytes(32).toString('base64url')
  await database.insert(secrets).values({ name, value, at: currentInstant() }).onConflictDoNothing()
  return (await find())?.value ?? value
}
