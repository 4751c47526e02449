import 'server-only'

import type { Store } from '@/core/store/store'

/** More accounts than these are not looked for at once: the database is asked for each by its id. */
const MOST_ACCOUNTS = 200

/** Whose documents a list shows: everybody's where it is empty. */
export interface BuyerWanted {
  /** What was typed, small: a part of a guest's name. */
  readonly buyer?: string
  /** The ids of the accounts of that name or code, at most 200. */
  readonly accounts?: readonly string[]
}

/** Buyers by what was typed: a part of an account's name, the whole of its code, or a guest's name; `words` is trimmed and small. */
export function wantedBuyers(store: Store, words: string): BuyerWanted {
  if (words === '') return {}
  const accounts: string[] = []
  for (const { id, name, code } of store.account.values()) {
    if (accounts.length >= MOST_ACCOUNTS) break
    if (name.toLowerCase().includes(words) || code.toLowerCase() === words) accounts.push(id)
  }
  return { buyer: words, accounts }
}
