import type { PreparedStore } from '../engine/context/prepared-store'
import type { CompiledList } from '../engine/lists/compiled-list'
import { sharedMemory } from '../maps/shared-memory'
import type { Steps } from '../steps/steps'
import type { Finding } from './finding'

/** What was found in one list, and the records it also hangs on. */
interface Kept {
  readonly beside: readonly unknown[]
  readonly findings: readonly Finding[]
}

/**
 * Findings that hang on a list and its lines: kept for every list that stays as it is, so that an edit of one of a thousand
 * lists looks at that one. `beside` are what else they hang on, alike where nothing of it has changed.
 */
export function listByList(
  name: string,
  beside: (prepared: PreparedStore) => readonly unknown[],
  find: (prepared: PreparedStore, list: CompiledList) => readonly Finding[],
): (prepared: PreparedStore) => Steps<readonly Finding[]> {
  const memory = sharedMemory(`findings.${name}`, () => new WeakMap<CompiledList, Kept>())
  return function* (prepared) {
    const now = beside(prepared)
    const all: Finding[] = []
    for (const list of prepared.lists.values()) {
      let kept = memory.get(list)
      if (!kept || !kept.beside.every((each, at) => each === now[at])) {
        kept = { beside: now, findings: find(prepared, list) }
        memory.set(list, kept)
        yield
      }
      for (const finding of kept.findings) all.push(finding)
    }
    return all
  }
}
