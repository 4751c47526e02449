import 'server-only'

import { findByCode } from '@/core/catalogue/find-by-code'
import type { PriceList } from '@/core/price/lines/price-list'
import { codeFromName } from '@/core/store/code-from-name'
import type { Store } from '@/core/store/store'
import type { ChangeRequest } from '@/server/changes/weigh'
import { randomUUID } from 'node:crypto'

/** A list’s lines for a copy of it. */
export function copiedLines(store: Store, list: string, copy: string): readonly ChangeRequest[] {
  return [...store['price-line'].values()].flatMap((line): readonly ChangeRequest[] => {
    if (line.list !== list) return []
    const id = randomUUID()
    return [{ kind: 'price-line', id, seen: null, after: { ...line, id, list: copy } }]
  })
}

export interface CopiedLists {
  /** Ids in the order of the contract: copies of its own lists, and those it shares with others as they are. */
  readonly lists: readonly string[]
  readonly requests: readonly ChangeRequest[]
}

/**
 * The lists for a copy of a contract. A list that nobody but this contract leads to is copied with its lines, so that the
 * running contract stays as it was agreed.
 */
export function copiedLists(
  store: Store,
  contract: string,
  lists: readonly string[],
  name: string,
): CopiedLists {
  const requests: ChangeRequest[] = []
  const taken = new Set<string>()
  const copied = lists.map((id) => {
    const list = store['price-list'].get(id)
    if (!list || !isOwn(store, contract, list)) return id
    const copy = randomUUID()
    const code = codeFromName(
      `${list.code} copy`,
      (each) => taken.has(each) || findByCode(store['price-list'], each) !== null,
      'list',
    )
    taken.add(code)
    const after = { ...list, id: copy, code, name: `${list.name}, ${name}` }
    requests.push({ kind: 'price-list', id: copy, seen: null, after }, ...copiedLines(store, id, copy))
    return copy
  })
  return { lists: copied, requests }
}

function isOwn(store: Store, contract: string, { id, audience }: PriceList): boolean {
  if (audience.include.length > 0) return false
  return [...store.contract.values()].every((other) => other.id === contract || !other.lists.includes(id))
}
