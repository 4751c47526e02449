import 'server-only'

import { createHash } from 'node:crypto'
import { readFileSync, realpathSync, writeFileSync } from 'node:fs'
import { createServer, type Server } from 'node:net'
import { join } from 'node:path'

/** Another process has the directory: two of them would lose each other's commits. */
export class DirectoryInUseError extends Error {
  constructor(
    readonly directory: string,
    readonly processId: string | null,
  ) {
    super(
      `The data in ${directory} is in use by another Steppe` +
        (processId ? ` (process ${processId}).` : '.') +
        ' Stop it first, or start with another --data directory.',
    )
  }
}

/**
 * Takes a directory for this process alone, until it ends.
 *
 * The lock is an abstract Unix socket: the kernel frees it whatever way the process ends, so no stale
 * lock file can keep a merchant out of their own store.
 *
 * Errors  rejects with `DirectoryInUseError` when another process has it.
 */
export async function lockDirectory(directory: string): Promise<Server> {
  const real = realpathSync(directory)
  const processFile = join(real, 'process')
  const server = createServer()
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE' ? new DirectoryInUseError(directory, readProcess(processFile)) : error,
      ),
    )
    server.listen(`\0steppe-${createHash('sha1').update(real).digest('hex')}`, resolve)
  })
  server.unref()
  writeFileSync(processFile, String(process.pid))
  return server
}

function readProcess(file: string): string | null {
  try {
    return readFileSync(file, 'utf8')
  } catch {
    return null
  }
}
