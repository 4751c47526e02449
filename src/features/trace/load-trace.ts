import 'server-only'

import { findBySku } from '@/core/catalogue/find-by-code'
import { resolveValue, variantName } from '@/core/catalogue/product'
import { ask } from '@/core/engine/ask'
import type { Answer, Loser } from '@/core/engine/trace'
import { findNearest } from '@/core/issue/issue'
import { getSettings } from '@/core/store/store'
import type { Outlook } from '@/server/engine/look-from'
import { formatMoney } from '@/ui/format/amount'
import { candidateParts, listPart, lossSentence, stepParts, type Wording } from './trace-sentences'
import type { TraceLossView, TracePart, TraceView } from './trace-view'

type Loaded =
  { readonly ok: true; readonly value: TraceView } | { readonly ok: false; readonly problem: string }

/** How a buyer's price of a SKU came about, worded. */
export function loadTrace(outlook: Outlook, sku: string): Loaded {
  const { prepared, buyer, buyerName } = outlook
  const { store } = prepared
  const variant = findBySku(store.variant, sku)
  const product = variant && store.product.get(variant.product)
  if (!variant || !product) {
    const nearest = findNearest(
      sku,
      [...store.variant.values()].map((each) => each.sku),
    )
    return { ok: false, problem: `There is no SKU “${sku}”.${nearest ? ` Did you mean ${nearest}?` : ''}` }
  }
  const asked = ask(prepared, { buyer, variant: variant.id })
  const guest = ask(prepared, { buyer: { kind: 'guest' }, variant: variant.id })
  if (!asked.ok || !guest.ok) return { ok: false, problem: `There is no buyer “${outlook.as}”.` }

  const wording: Wording = { store, buyerName }
  const { unit, currency, trace } = asked.value
  const href = `/products/${product.code}`
  const options = variantName(product, variant)
  const worded = trace.losers.map((loser) => ({ loser, view: toLossView(wording, loser) }))
  type Worded = (typeof worded)[number]
  const isOther = ({ loser }: Worded) => loser.reason.code === 'not-for-buyer'
  const isSilent = ({ loser }: Worded) => loser.reason.code === 'no-line'
  return {
    ok: true,
    value: {
      unit,
      currency,
      digits: getSettings(store).priceDigits,
      headline: headline(outlook, unit !== null, `${product.name}${options ? `, ${options}` : ''}`),
      quantity: outlook.quantity,
      steps: trace.steps.map((step) => ({ parts: stepParts(wording, step, href), amount: step.amount })),
      losers: worded.filter((each) => !isOther(each) && !isSilent(each)).map(({ view }) => view),
      silent: worded.filter(isSilent).flatMap(({ view }) => view.parts),
      others: worded.filter(isOther).map(({ view }) => view),
      wouldChange: whatWouldChange(wording, asked.value, href),
      cost: resolveValue(product, variant, 'cost').value,
      recommendedPrice: resolveValue(product, variant, 'recommendedPrice').value,
      publicPrice: guest.value.unit,
    },
  }
}

/** The sentence under the amount: "is what a buyer in Bee farms pays for …". */
function headline({ buyer, buyerName }: Outlook, priced: boolean, item: string): string {
  const who =
    buyer.kind === 'guest' ? 'a guest' : buyer.kind === 'group' ? `a buyer in ${buyerName}` : buyerName
  return priced ? `is what ${who} pays for ${item}` : `for ${who}, on ${item}`
}

function toLossView(wording: Wording, { at, reason, price }: Loser): TraceLossView {
  return { parts: candidateParts(wording, at, reason), reason: lossSentence(wording, reason), price }
}

/** The nearest things that would give another price. */
function whatWouldChange(
  wording: Wording,
  { unit, currency, trace }: Answer,
  productHref: string,
): TraceView['wouldChange'] {
  const { priceDigits } = getSettings(wording.store)
  const changes: { parts: readonly TracePart[]; outcome: string }[] = []
  if (trace.winner.kind === 'list') {
    const next = trace.losers.find(
      ({ price, reason }) => price !== null && reason.code !== 'off' && reason.code !== 'not-for-buyer',
    )
    const base = trace.steps.find(({ kind }) => kind === 'base')
    const instead = next?.price ?? base?.amount
    const by = next
      ? [{ text: 'then' }, ...candidateParts(wording, next.at, next.reason)]
      : [{ text: 'then the base price' }]
    if (instead && instead !== unit) {
      changes.push({
        parts: [
          { text: next?.at.list === trace.winner.at.list ? 'Without that line of' : 'Without' },
          listPart(wording, trace.winner.at.list),
          ...by,
        ],
        outcome: formatMoney(instead, currency, priceDigits),
      })
    }
  }
  for (const { at, price, reason } of trace.losers) {
    if (reason.code !== 'off' || price === null || price === unit) continue
    changes.push({
      parts: [{ text: 'Switch on' }, listPart(wording, at.list)],
      outcome: `offers ${formatMoney(price, currency, priceDigits)}`,
    })
  }
  if (trace.winner.kind === 'none') {
    changes.push({
      parts: [{ text: 'Set a base price', href: productHref }],
      outcome: 'everybody without a list pays it',
    })
  }
  return changes
}
