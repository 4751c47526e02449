import 'server-only'

import type { Steppe } from '../engine/steppe'
import { read } from './import-job'
import { importFile, importIds, importRow } from './import-rows'
import { type ImportJob, importJobs, isBusy } from './import-state'
import { readTable } from './read-table'

/** An import as it stands now, whichever process works on it. Errors  `null` when it is gone: many others were made since. */
export async function findImport(steppe: Steppe, id: string): Promise<ImportJob | null> {
  const jobs = importJobs()
  const known = jobs.get(id) ?? null
  if (!steppe.isShared) return known
  const row = await importRow(steppe, id)
  if (!row) {
    jobs.delete(id)
    return null
  }
  if (known && known.version >= row.version) return known
  const table = known?.table ?? (await tableOf(steppe, id))
  if (!table) return null
  const { fileName, target, at, matching, mark, leftOut, version } = row
  const state = row.state ?? { step: 'matching', problem: null }
  const job: ImportJob = {
    ...{ id, fileName, target, table, startedAt: at, matching, mark, state, version },
    ...{ leftOut: new Set(leftOut), leftOutThen: '', isCancelled: false },
    ...{ reading: null, asOf: steppe.lastChangeSet },
  }
  // What is looked at is read here, too.
  if (steppe.prepared && !isBusy(state) && state.step === 'preview') await read(steppe, job, true)
  jobs.set(id, job)
  return job
}

/** Imports, the latest last. */
export async function findImports(steppe: Steppe): Promise<readonly ImportJob[]> {
  if (!steppe.isShared) return [...importJobs().values()]
  const found = []
  for (const id of await importIds(steppe)) found.push(await findImport(steppe, id))
  return found.filter((job) => job !== null)
}

async function tableOf(steppe: Steppe, id: string) {
  const file = await importFile(steppe, id)
  const read = file && (await readTable(file))
  return read?.ok ? read.table : null
}
