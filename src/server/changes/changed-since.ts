import 'server-only'

import type { RecordKind } from '@/core/issue/issue'
import { gte } from 'drizzle-orm'
import { changeSets } from '../database/schema'
import type { Steppe } from '../engine/steppe'
import { revisionKey } from '../records/record-tables'

/** Whether a record was changed since an instant, live. */
export async function changedSince(
  { database, revisions }: Steppe,
  since: Date,
): Promise<(kind: RecordKind, id: string) => boolean> {
  const [first] = await database
    .select({ id: changeSets.id })
    .from(changeSets)
    .where(gte(changeSets.at, since))
    .orderBy(changeSets.id)
    .limit(1)
  return (kind, id) => first !== undefined && (revisions.get(revisionKey({ kind, id })) ?? 0) >= first.id
}
