import 'server-only'

import { createHash, timingSafeEqual } from 'node:crypto'

/** Whether what somebody typed is a secret word, whatever its capitals; how long that takes tells nothing of how far they agree. */
export function isSameWord(kept: string, typed: string): boolean {
  return timingSafeEqual(digestOf(kept), digestOf(typed))
}

function digestOf(word: string): Buffer {
  return createHash('sha256').update(word.trim().toLowerCase()).digest()
}
