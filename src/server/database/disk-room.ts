import 'server-only'

import { statfsSync } from 'node:fs'

/** Below this the log of the database may find no room for its next segment, and then nothing helps any more. */
const LEAST_FREE = 64 * 2 ** 20

/** The disk is nearly full: nothing was written, and nothing is before there is room again. */
export class DiskFullError extends Error {
  constructor(readonly freeBytes: number) {
    super(`Only ${freeBytes} bytes are free on the disk of the store, so nothing was saved.`)
  }
}

/** Bytes free on the disk a directory lies on. */
export function bytesFree(directory: string): number {
  const { bavail, bsize } = statfsSync(directory)
  return bavail * bsize
}

interface OnDisk {
  readonly freeBytes: () => number
}

/** Whether too little is free for a write to be safe. */
export function isDiskFull({ freeBytes }: OnDisk): boolean {
  return freeBytes() < LEAST_FREE
}

/**
 * Asked before every write that does not go through `commit`.
 *
 * Errors  throws `DiskFullError`.
 */
export function requireRoom(disk: OnDisk): void {
  if (isDiskFull(disk)) throw new DiskFullError(disk.freeBytes())
}
