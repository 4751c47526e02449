import 'server-only'

import { stepsWithoutCosts } from '@/core/engine/explain/steps-without-costs'
import type { CartLineWanted, PastPurchase } from '@/core/cart/cart'
import { priceCart } from '@/core/cart/price-cart'
import { stockAsked } from '@/core/cart/stock-asked'
import { findBySku } from '@/core/catalogue/find-by-code'
import { type StockLevels, UNCOUNTED } from '@/core/catalogue/stock'
import { ask } from '@/core/engine/ask'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { readPromotionFacts } from './promotion-facts'
import {
  type AnswerError,
  cartQuestion,
  cut,
  question,
  shapeError,
  type SubmittedCart,
  type SubmittedItem,
} from './question-shape'
import { bad, fromQuestionError, readBuyerContext, readLine, readMoment, unknown } from './read-question'
import { type CartAnswer, type ItemAnswer, toCartAnswer, toItemAnswer } from './price-answer'

/** One answer, in the order of the questions. docs/formats.md describes every field. */
export type PriceAnswer =
  | ({ readonly id: string } & ItemAnswer)
  | ({ readonly id: string } & CartAnswer)
  | { readonly id: string | null; readonly error: AnswerError }

/**
 * Answers each question, in order. A question that cannot be answered says why and does not keep the others from
 * being answered.
 *
 * `now` is the instant of questions that name none, in epoch milliseconds.
 *
 * Errors  `null` when the questions are no array.
 */
export function answerQuestions(
  prepared: PreparedStore,
  questions: unknown,
  now: number,
  stock: StockLevels = UNCOUNTED,
): readonly PriceAnswer[] | null {
  if (!Array.isArray(questions)) return null
  return questions.map((each: unknown) => answerQuestion(prepared, each, now, { stock }))
}

/** Drafts by what questions call them, `draft:spring`, as if each were live. */
type DraftStores = ReadonlyMap<string, PreparedStore>

const NO_DRAFTS: DraftStores = new Map()

/** What questions ask for beside the store. */
export interface Beside {
  readonly drafts?: DraftStores | undefined
  /** How many there are of what is counted; left out where stock is not asked for. */
  readonly stock?: StockLevels
}

/** Ids of the variants whose stock some questions ask for, as far as they can be read. */
export function stockOfQuestions({ store }: PreparedStore, questions: readonly unknown[]): readonly string[] {
  const lines = questions.flatMap((question) => {
    const { lines: given } = (question ?? {}) as { readonly lines?: unknown }
    return Array.isArray(given) ? (given as readonly unknown[]) : []
  })
  if (lines.length === 0) return []
  const wanted = lines.flatMap((line) => {
    const { sku } = (line ?? {}) as { readonly sku?: unknown }
    const variant = typeof sku === 'string' ? findBySku(store.variant, sku) : undefined
    return variant ? [{ variant: variant.id }] : []
  })
  return stockAsked(store, wanted)
}

/** What a question wants to be asked in; `null` for what is live. */
export function draftOfQuestion(submitted: unknown): string | null {
  const wanted = (submitted as { in?: unknown } | null)?.in
  return typeof wanted === 'string' ? wanted : null
}

/** Answers one question, or says why it cannot be answered. */
export function answerQuestion(
  live: PreparedStore,
  submitted: unknown,
  now: number,
  { drafts = NO_DRAFTS, stock = UNCOUNTED }: Beside = {},
): PriceAnswer {
  const isCart = typeof submitted === 'object' && submitted !== null && 'lines' in submitted
  const { error } = (isCart ? cartQuestion : question).validate(submitted, {
    convert: false,
    abortEarly: true,
  })
  const id = (submitted as { id?: unknown } | null)?.id
  if (error) return { id: typeof id === 'string' ? id : null, error: shapeError(error) }
  const wanted = draftOfQuestion(submitted)
  const prepared = wanted === null ? live : drafts.get(wanted)
  if (!prepared)
    return {
      id: String(id),
      ...unknown('unknown-draft', 'in', wanted ?? '', [...drafts.keys()]),
    }
  return isCart
    ? answerCart(prepared, submitted as SubmittedCart, now, stock)
    : answerItem(prepared, submitted as SubmittedItem, now)
}

function answerItem(prepared: PreparedStore, submitted: SubmittedItem, now: number): PriceAnswer {
  const { id } = submitted
  const from = readBuyerContext(prepared, submitted, now)
  if ('error' in from) return { id, error: from.error }
  const line = readLine(prepared, submitted, '')
  if ('error' in line) return { id, error: line.error }
  const facts = readPromotionFacts(prepared.store, submitted)
  if (!facts.ok) return { id, error: { ...facts.error, value: cut(facts.error.value) } }
  const asked = ask(prepared, { ...from.value, ...line.value, basket: [], promotions: facts.value })
  if (!asked.ok) return { id, error: fromQuestionError([submitted], asked.error.code) }
  return { id, ...toItemAnswer(prepared, from.value, line.value, asked.value) }
}

function answerCart(
  prepared: PreparedStore,
  submitted: SubmittedCart,
  now: number,
  stock: StockLevels,
): PriceAnswer {
  const { id } = submitted
  const from = readBuyerContext(prepared, submitted, now)
  if ('error' in from) return { id, error: from.error }
  const lines: CartLineWanted[] = []
  for (const [at, each] of submitted.lines.entries()) {
    const line = readLine(prepared, each, `lines.${at}.`)
    if ('error' in line) return { id, error: line.error }
    lines.push(line.value)
  }
  const past: PastPurchase[] = []
  for (const [at, each] of (submitted.past ?? []).entries()) {
    const line = readLine(prepared, each, `past.${at}.`)
    if ('error' in line) return { id, error: line.error }
    const instant = readMoment(each.at)
    if (instant === null)
      return {
        id,
        ...bad('bad-instant', `past.${at}.at`, each.at, 'an instant such as 2027-03-01T00:00:00Z'),
      }
    past.push({ ...line.value, at: instant })
  }
  const promotions = readPromotionFacts(prepared.store, submitted)
  if (!promotions.ok) return { id, error: { ...promotions.error, value: cut(promotions.error.value) } }
  const priced = priceCart(prepared, { ...from.value, lines, past, promotions: promotions.value, stock })
  if (!priced.ok) return { id, error: fromQuestionError(submitted.lines, priced.error.code) }
  return { id, ...toCartAnswer(prepared, priced.value) }
}

/** An answer for whoever must not know what a price started from where that was a cost. */
export function answerWithoutCosts(answer: PriceAnswer): PriceAnswer {
  if (!('trace' in answer) || !answer.trace) return answer
  return { ...answer, trace: { ...answer.trace, steps: stepsWithoutCosts(answer.trace.steps) } }
}
