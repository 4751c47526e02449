import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import { findByCode } from '@/core/catalogue/find-by-code'
import type { What } from '@/core/predicates/what'
import { nextPosition } from '@/core/price/lines/fix-price'
import type { BreaksInput } from '@/core/price/lines/parse-breaks'
import { codeFromName } from '@/core/store/code-from-name'
import { meansTheSame } from '@/core/store/same-meaning'
import { getSettings, type Store } from '@/core/store/store'
import type { ChangeRequest } from '@/server/changes/weigh'
import { revisionOf, type View } from '@/server/views/view'
import { randomUUID } from 'node:crypto'
import type { AgreedWith } from './party'
import { beginning, requestsToMake } from '../record/new-record'

export interface LineWanted {
  /** The list it is in; `null` where it is the one of a party. */
  readonly list: string | null
  readonly party: AgreedWith | null
  /** The line that is changed; `null` for a new one, or the one there is for the same items. */
  readonly line: string | null
}

export type AgreedRequests =
  | {
      readonly ok: true
      readonly requests: readonly ChangeRequest[]
      readonly list: string
      readonly line: string
    }
  | { readonly ok: false; readonly problem: string }

/**
 * What agreeing a price comes to: a line in the list that is theirs alone, changed where there is one for the same items, in
 * a list made on the way where they have none.
 */
export function agreedRequests(
  view: View,
  { list: given, party, line: changed }: LineWanted,
  scope: What,
  rule: BreaksInput,
): AgreedRequests {
  const { store } = view.prepared
  const holder = party && holderOf(store, party)
  if (party && !holder) return { ok: false, problem: `There is no such ${party.kind} any more.` }
  const own = given ?? (party && ownList(store, party))
  const made = own === null && party && holder ? listFor(store, party, holder.name) : null
  const list = own ?? made?.id
  if (!list) return { ok: false, problem: 'There is no such price list any more.' }
  const lines = [...store['price-line'].values()].filter((line) => line.list === list)
  const same = lines.find((line) => (changed ? line.id === changed : meansTheSame(line.scope, scope)))
  const id = same?.id ?? randomUUID()
  const after = {
    id,
    list,
    position: nextPosition(lines),
    schedule: null,
    rounding: null,
    ...same,
    scope,
    ...rule,
  }
  const seen = same ? revisionOf(view, 'price-line', id) : null
  return {
    ok: true,
    list,
    line: id,
    requests: [
      ...(made?.requests ?? []),
      { kind: 'price-line', id, seen, after },
      ...(made && party?.kind === 'contract'
        ? [contractWith(store, party.id, list, revisionOf(view, 'contract', party.id))]
        : []),
    ],
  }
}

/** Errors  `null` where there is no such party. */
export function holderOf(store: Store, { kind, id }: AgreedWith): { readonly name: string } | null {
  return (kind === 'contract' ? store.contract.get(id) : store.account.get(id)) ?? null
}

/** Somebody a party is: the account itself, or the first a contract binds. */
export function partyBuyer(store: Store, { kind, id }: AgreedWith): BuyerReference | null {
  if (kind === 'account') return store.account.has(id) ? { kind: 'account', account: id } : null
  const contract = store.contract.get(id)
  const [account] = contract?.accounts ?? []
  if (account !== undefined) return { kind: 'account', account }
  const [group] = contract?.groups ?? []
  return group === undefined ? null : { kind: 'group', group }
}

/** The list that is theirs alone and asked first, so that what is agreed in it holds: nobody else is led to it. */
function ownList(store: Store, { kind, id }: AgreedWith): string | null {
  if (kind === 'contract') {
    const [first] = store.contract.get(id)?.lists ?? []
    const found = first === undefined ? undefined : store['price-list'].get(first)
    const isShared = [...store.contract.values()].some(
      (contract) => contract.id !== id && first !== undefined && contract.lists.includes(first),
    )
    return found?.status === 'active' && found.audience.include.length === 0 && !isShared ? found.id : null
  }
  for (const list of store['price-list'].values()) {
    const [term, ...others] = list.audience.include
    const isTheirs = others.length === 0 && term?.kind === 'account' && term.account === id
    if (isTheirs && list.status === 'active' && list.state === 'on') return list.id
  }
  return null
}

/** A new list for them alone. */
function listFor(store: Store, { kind, id }: AgreedWith, name: string) {
  const title = `${name}, agreed prices`
  const code = codeFromName(title, (each) => findByCode(store['price-list'], each) !== null, 'list')
  const pays = kind === 'contract' ? store.contract.get(id)?.currency : store.account.get(id)?.currency
  const record = {
    ...beginning(store, 'price-list'),
    name: title,
    code,
    purpose: kind === 'contract' ? 'contract' : 'other',
    state: 'on',
    currency: pays ?? getSettings(store).currency,
    audience:
      kind === 'contract'
        ? { include: [], exclude: [] }
        : { include: [{ kind: 'account', account: id }], exclude: [] },
  }
  const requests = requestsToMake(store, 'price-list', record, null, randomUUID())
  return { id: requests[0].id, requests }
}

function contractWith(store: Store, id: string, list: string, seen: number | null): ChangeRequest {
  const contract = store.contract.get(id)
  if (!contract) throw new RangeError('the contract was looked up before')
  return { kind: 'contract', id, seen, after: { ...contract, lists: [list, ...contract.lists] } }
}
