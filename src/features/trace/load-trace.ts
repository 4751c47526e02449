import 'server-only'

import { stepsWithoutCosts } from '@/core/engine/explain/steps-without-costs'
import { findBySku, nearestSku } from '@/core/catalogue/find-by-code'
import { resolveValue, variantName } from '@/core/catalogue/product'
import { ask } from '@/core/engine/ask'
import type { Question } from '@/core/engine/context/buyer-context'
import type { Decimal } from '@/core/decimal/decimal'
import { fromUnits } from '@/core/engine/lists/price-step'
import type { ExplainedAnswer, Loser } from '@/core/engine/explain/trace'
import { inBasis, storeBasis } from '@/core/engine/amounts/basis'
import { shown } from '@/core/engine/amounts/shown'
import type { TaxBasis } from '@/core/price/based-amount'
import { priceDigitsOf, type Store } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'
import { formatMoney } from '@/ui/format/amount'
import { DISPLAY_WORDS } from '@/ui/format/terms-phrases'
import {
  candidateParts,
  idlePart,
  idleSentence,
  listPart,
  lossSentence,
  type Wording,
} from '@/ui/trace/trace-sentences'
import { factsOfBuyer } from '@/server/shop/promotion-facts'
import { promotionLines } from './promotion-lines'
import { termsSections } from './terms-sentences'
import type { TraceLossView, TraceView } from './trace-view'
import type { TracePart } from '@/ui/trace/trace-part'
import { stepViews } from '@/ui/trace/trace-steps'
import { recordHref } from '@/ui/frame/record-href'

type Loaded =
  { readonly ok: true; readonly value: TraceView } | { readonly ok: false; readonly problem: string }

/** What the same question is answered live, beside the draft that is looked through. */
function livePrice({ view }: RequestContext, question: Question, unit: Decimal | null): TraceView['live'] {
  if (!view.draft) return null
  const asked = ask(view.draft.live, question)
  const now = asked.ok ? asked.value.unit : null
  return now === unit ? null : { unit: now, draft: view.draft.draft.name }
}

/** How a buyer's price of a SKU came about, worded. */
export async function loadTrace(requestContext: RequestContext, sku: string): Promise<Loaded> {
  const { prepared, buyerContext, buyerName, quantity } = requestContext
  const { store } = prepared
  const variant = findBySku(store.variant, sku)
  const product = variant && store.product.get(variant.product)
  if (!variant || !product) {
    const nearest = nearestSku(store.variant, sku)
    return { ok: false, problem: `There is no SKU “${sku}”.${nearest ? ` Did you mean ${nearest}?` : ''}` }
  }
  const question = {
    ...buyerContext,
    variant: variant.id,
    quantity: fromUnits(quantity, 3),
    extras: [],
    basket: [],
  }
  const { buyer } = buyerContext
  const account = buyer.kind === 'account' ? buyer.account : null
  const facts = await factsOfBuyer(requestContext.steppe, requestContext, { account, visitor: null })
  const asked = ask(prepared, { ...question, promotions: facts })
  if (!asked.ok) return { ok: false, problem: `There is no buyer “${requestContext.as}”.` }
  const guest = ask(prepared, { ...question, buyer: { kind: 'guest' }, currency: asked.value.currency })
  if (!guest.ok) return { ok: false, problem: `There is no buyer “${requestContext.as}”.` }

  const promotions = promotionLines(prepared, {
    ...buyerContext,
    lines: [{ variant: variant.id, quantity: question.quantity, extras: [] }],
    past: [],
    promotions: facts,
  })
  const { unit, basis, currency, trace, total, breaks, was, because } = asked.value
  const taxWord = (of: TaxBasis) => (prepared.mixesBases ? ` ${DISPLAY_WORDS[of]}` : '')
  const { currencyView } = requestContext.pricingContext
  const number = prepared.index.numberOf.get(variant.id) as number
  const compared =
    unit && shown(inBasis(prepared, currencyView, number, { amount: unit, basis }, storeBasis(prepared)))
  const wording: Wording = { store, buyerName, currency }
  const href = recordHref('products', product.code)
  const options = variantName(product, variant)
  const worded = trace.losers.map((loser) => ({
    loser,
    view: toLossView(wording, loser, loser.basis === basis ? '' : taxWord(loser.basis)),
  }))
  type Worded = (typeof worded)[number]
  const isOther = ({ loser }: Worded) => loser.reason.code === 'not-for-buyer'
  const isSilent = ({ loser }: Worded) => SILENT.has(loser.reason.code)
  return {
    ok: true,
    value: {
      unit,
      live: livePrice(requestContext, question, unit),
      currency,
      digits: priceDigitsOf(store, currency),
      headline: headline(requestContext, unit !== null, `${product.name}${options ? `, ${options}` : ''}`),
      quantity: question.quantity,
      taxWord: taxWord(basis),
      compared,
      total,
      was: was && `${formatMoney(was.amount, currency, priceDigitsOf(store, currency))}${taxWord(was.basis)}`,
      breaks: breaks.map((row) => ({ ...row, taxWord: row.basis === basis ? '' : taxWord(row.basis) })),
      hidden: because?.code === 'not-offered' ? because.lists.map((list) => listPart(wording, list)) : [],
      steps: stepViews(wording, prepared.hidesCosts ? stepsWithoutCosts(trace.steps) : trace.steps, {
        productHref: href,
        mixesBases: prepared.mixesBases,
      }),
      losers: worded.filter((each) => !isOther(each) && !isSilent(each)).map(({ view }) => view),
      silent: worded.filter(isSilent).flatMap(({ view }) => view.parts),
      others: worded.filter(isOther).map(({ view }) => view),
      idle: trace.idleAdjustments
        .filter(({ reason }) => reason.code !== 'off' && reason.code !== 'archived')
        .map((idle) => ({
          parts: [idlePart(wording, idle)],
          reason: idleSentence(wording, idle),
          price: null,
          taxWord: '',
        })),
      wouldChange: whatWouldChange(wording, asked.value, href),
      promoted: promotedView(asked.value, store),
      terms: [
        ...(promotions && promotions.lines.length > 0 ? [promotions] : []),
        ...termsSections(store, asked.value, priceDigitsOf(store, currency), href),
      ],
      cost: resolveValue(product, variant, 'cost').value,
      recommendedPrice: resolveValue(product, variant, 'recommendedPrice').value,
      publicPrice: guest.value.unit && {
        amount: guest.value.unit,
        taxWord: guest.value.basis === basis ? '' : taxWord(guest.value.basis),
      },
    },
  }
}

/** What promotions on item prices make of it; `null` where they change nothing. */
function promotedView({ promoted }: ExplainedAnswer, store: Store): TraceView['promoted'] {
  if (!promoted) return null
  const names = promoted.by.map(({ promotion }) => store.promotion.get(promotion)?.name ?? promotion)
  return { unit: promoted.unit, by: names.join(', ') }
}

/** What a list says by saying nothing. */
const SILENT: ReadonlySet<Loser['reason']['code']> = new Set(['no-line', 'outside-scope'])

/** Lists that would not come next even if the winner were gone. */
const NEVER_NEXT: ReadonlySet<Loser['reason']['code']> = new Set([
  'off',
  'archived',
  'not-for-buyer',
  'not-here',
  'not-now',
  'contract',
])

/** The steps of a list that another one starts from come before it, as they happened. */
/** The sentence under the amount: "is what a buyer in Bee farms pays for …". */
function headline({ buyer, buyerName }: RequestContext, priced: boolean, item: string): string {
  const who =
    buyer.kind === 'guest'
      ? buyerName === 'Guest'
        ? 'a guest'
        : `a ${buyerName.toLowerCase().replace('guest with', 'guest with the passcode')}`
      : buyer.kind === 'group'
        ? `a buyer in ${buyerName}`
        : buyer.kind === 'tag'
          ? `a buyer tagged ${buyer.tag}`
          : buyerName
  return priced ? `is what ${who} pays for ${item}` : `for ${who}, on ${item}`
}

function toLossView(wording: Wording, { at, reason, price }: Loser, taxWord: string): TraceLossView {
  return { parts: candidateParts(wording, at, reason), reason: lossSentence(wording, reason), price, taxWord }
}

/** The nearest things that would give another price. */
function whatWouldChange(
  wording: Wording,
  { unit, currency, trace }: ExplainedAnswer,
  productHref: string,
): TraceView['wouldChange'] {
  const priceDigits = priceDigitsOf(wording.store, currency)
  const changes: { parts: readonly TracePart[]; outcome: string }[] = []
  if (trace.winner.kind === 'list') {
    const next = trace.losers.find(({ price, reason }) => price !== null && !NEVER_NEXT.has(reason.code))
    const base = trace.steps.find(({ kind }) => kind === 'reference')
    const instead = next?.price ?? (base?.currency === currency ? base.amount : undefined)
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
