import 'server-only'

import { localDay } from '@/core/predicates/schedule-outlook'
import type { What } from '@/core/predicates/what'
import type { PriceList } from '@/core/price/lines/price-list'
import { standingOfQuote } from '@/core/quote/quote-standing'
import { getSettings, type Settings, type Store } from '@/core/store/store'
import { commit } from '@/server/changes/commit'
import { toRefusal } from '@/server/changes/to-refusal'
import type { ChangeRequest } from '@/server/changes/weigh'
import { beginDraft } from '@/server/drafts/draft-rows'
import { viewOf } from '@/server/drafts/draft-view'
import { discardDraft } from '@/server/drafts/publish-draft'
import type { Steppe } from '@/server/engine/steppe'
import type { Quote } from '@/server/quotes/quote-rows'
import { liveView, type View } from '@/server/views/view'
import { agreedRequests } from '@/sheet/price-lines/agreed-line'
import type { AgreedWith } from '@/sheet/price-lines/party'
import { readLineRule } from '@/sheet/price-lines/read-line'
import { quoteName } from '@/ui/format/quote-phrases'
import { refusalSentence } from '@/ui/format/refusal-sentence'

export type KeptPrices =
  | { readonly ok: true; readonly draft: string; readonly list: string }
  | { readonly ok: false; readonly problem: string }

/** Where prices of an offer can be kept: the buyer's own list, or a contract that binds them. */
export interface Keeper {
  readonly party: AgreedWith
  readonly name: string
}

/** The buyer's own list first, then the contracts they are named in that are not over; none for a guest. */
export function keepersOf(store: Store, account: string | null, now: number): readonly Keeper[] {
  if (account === null || !store.account.has(account)) return []
  const today = localDay(now, getSettings(store).timeZone)
  const contracts = [...store.contract.values()].filter(
    ({ accounts, state, to }) =>
      accounts.includes(account) && state !== 'ended' && (to === null || to > today),
  )
  return [
    { party: { kind: 'account', id: account }, name: 'their own prices' },
    ...contracts.map(({ id, name, code, accounts, groups }) => {
      const others = accounts.length - 1 + groups.length
      return {
        party: { kind: 'contract', id } as const,
        name: `those of contract ${code}, ${name}${others === 0 ? '' : ', which binds others too'}`,
      }
    }),
  ]
}

/**
 * Puts the prices of an offer into a draft: into the list that is the buyer's alone, or into that of a contract of theirs; made on
 * the way where there is none.
 */
export async function keepPricesOf(
  steppe: Steppe,
  quote: Quote,
  party: AgreedWith,
  by: { readonly author: string; readonly at: Date },
): Promise<KeptPrices> {
  const { offer } = standingOfQuote(quote.events)
  if (quote.account === null) return { ok: false, problem: 'A guest has no prices of their own.' }
  if (!offer) return { ok: false, problem: 'Nothing has been offered yet.' }
  const { store } = liveView(steppe).prepared
  if (!keepersOf(store, quote.account, by.at.getTime()).some((keeper) => isSame(keeper.party, party)))
    return {
      ok: false,
      problem: 'This contract does not bind them any more. Reload to see where prices can go.',
    }
  const name = `Prices of ${quoteName(quote.number)}`
  const draft = await beginDraft(steppe.database, { name, ...by })
  let isWritten = false
  try {
    const outcome = await write(await viewOf(steppe, draft), quote, party, by)
    isWritten = outcome.ok
    return outcome
  } finally {
    // Nobody asked for an empty draft.
    if (!isWritten) await discardDraft(steppe, draft.code)
  }
}

async function write(
  view: View,
  quote: Quote,
  party: AgreedWith,
  by: { readonly author: string; readonly at: Date },
): Promise<KeptPrices> {
  const { store } = view.prepared
  const { request } = quote
  const { offer } = standingOfQuote(quote.events)
  const lines = (offer?.lines ?? []).filter(({ extras }) => extras.length === 0)
  const requests: ChangeRequest[] = []
  let list: string | null = null
  for (const { variant, price } of lines) {
    if (!store.variant.has(variant)) continue
    const rule = readLineRule(store, price)
    if (!rule.ok) return rule
    const scope: What = { include: [{ kind: 'variant', variant }], exclude: [] }
    const agreed = agreedRequests(
      view,
      list === null ? { list: null, party, line: null } : { list, party: null, line: null },
      scope,
      rule.value,
    )
    if (!agreed.ok) return agreed
    list = agreed.list
    // Lines that are new stand one after the other.
    requests.push(
      ...agreed.requests.map((each) =>
        each.kind === 'price-line' && each.seen === null && each.after
          ? ({
              ...each,
              after: { ...each.after, position: each.after.position + requests.length },
            } as ChangeRequest)
          : each,
      ),
    )
  }
  if (list === null) return { ok: false, problem: 'Nothing of this offer can be kept as a price.' }
  const made = requests.find((each) => each.kind === 'price-list' && each.id === list)?.after
  const kept = store['price-list'].get(list) ?? (made as PriceList | undefined)
  if (!kept) throw new RangeError('the list was found or made before')
  const problem = misfit(getSettings(store), kept, request)
  if (problem) return { ok: false, problem }
  const outcome = await commit(view, requests, {
    ...by,
    note: `Prices of ${quoteName(quote.number)} kept for ${request.buyer}`,
  })
  if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  return { ok: true, draft: view.draft?.draft.code ?? '', list: kept.code }
}

function isSame(left: AgreedWith, right: AgreedWith): boolean {
  return left.kind === right.kind && left.id === right.id
}

/** Why prices of a quote cannot stand in a list as they are; `null` where they can. */
function misfit(
  settings: Settings,
  list: Pick<PriceList, 'currency' | 'taxBasis' | 'name'>,
  { currency, basis }: Quote['request'],
): string | null {
  const listCurrency = list.currency ?? settings.currency
  const listBasis = list.taxBasis ?? settings.taxBasis
  if (listCurrency !== currency)
    return `The offer is in ${currency}, and the prices of “${list.name}” in ${listCurrency}. Set them by hand.`
  return listBasis === basis
    ? null
    : `The offer is ${basis === 'net' ? 'without' : 'with'} tax, and the prices of “${list.name}” ${listBasis === 'net' ? 'without' : 'with'} it. Set them by hand.`
}
