import 'server-only'

import type { What } from '@/core/predicates/what'
import { standingOfQuote } from '@/core/quote/quote-standing'
import { getSettings } from '@/core/store/store'
import { commit } from '@/server/changes/commit'
import { toRefusal } from '@/server/changes/to-refusal'
import type { ChangeRequest } from '@/server/changes/weigh'
import { beginDraft } from '@/server/drafts/draft-rows'
import { viewOf } from '@/server/drafts/draft-view'
import { discardDraft } from '@/server/drafts/publish-draft'
import type { Steppe } from '@/server/engine/steppe'
import type { Quote } from '@/server/quotes/quote-rows'
import type { View } from '@/server/views/view'
import { agreedRequests } from '@/sheet/price-lines/agreed-line'
import { readLineRule } from '@/sheet/price-lines/read-line'
import { quoteName } from '@/ui/format/quote-phrases'
import { refusalSentence } from '@/ui/format/refusal-sentence'

export type KeptPrices =
  | { readonly ok: true; readonly draft: string; readonly list: string }
  | { readonly ok: false; readonly problem: string }

/**
 * Puts the prices of an offer into a draft, as prices of the buyer's own: into the list of a contract they have, else into the one
 * that is theirs alone, made on the way where they have none.
 */
export async function keepPricesOf(
  steppe: Steppe,
  quote: Quote,
  by: { readonly author: string; readonly at: Date },
): Promise<KeptPrices> {
  const { offer } = standingOfQuote(quote.events)
  if (quote.account === null) return { ok: false, problem: 'A guest has no prices of their own.' }
  if (!offer) return { ok: false, problem: 'Nothing has been offered yet.' }
  const name = `Prices of ${quoteName(quote.number)}`
  const draft = await beginDraft(steppe.database, { name, ...by })
  let isWritten = false
  try {
    const outcome = await write(await viewOf(steppe, draft), quote, by)
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
  by: { readonly author: string; readonly at: Date },
): Promise<KeptPrices> {
  const { store } = view.prepared
  const { request, account } = quote
  const { offer } = standingOfQuote(quote.events)
  const lines = (offer?.lines ?? []).filter(({ extras }) => extras.length === 0)
  const party = { kind: 'account', id: account as string } as const
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
  const problem = misfit(view, list, request)
  if (problem) return { ok: false, problem }
  const made = requests.find((each) => each.kind === 'price-list' && each.id === list)?.after
  const code =
    store['price-list'].get(list)?.code ?? (made as { readonly code?: string } | undefined)?.code ?? ''
  const outcome = await commit(view, requests, {
    ...by,
    note: `Prices of ${quoteName(quote.number)} kept for ${request.buyer}`,
  })
  if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  return { ok: true, draft: view.draft?.draft.code ?? '', list: code }
}

/** Why prices of a quote cannot stand in a list as they are; `null` where they can. */
function misfit(
  { prepared: { store } }: View,
  list: string,
  { currency, basis }: Quote['request'],
): string | null {
  const found = store['price-list'].get(list)
  const settings = getSettings(store)
  const listCurrency = found?.currency ?? settings.currency
  const listBasis = found?.taxBasis ?? settings.taxBasis
  if (listCurrency !== currency)
    return `The offer is in ${currency}, and their own prices in ${listCurrency}. Set them by hand.`
  return listBasis === basis
    ? null
    : `The offer is ${basis === 'net' ? 'without' : 'with'} tax, and their own prices ${listBasis === 'net' ? 'without' : 'with'} it. Set them by hand.`
}
