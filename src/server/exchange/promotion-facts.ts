import 'server-only'

import { findByCode } from '@/core/catalogue/find-by-code'
import type { Choice, PastOrder, PromotionFacts } from '@/core/promotions/facts'
import { parseDecimal } from '@/core/decimal/decimal'
import { findNearest } from '@/core/issue/issue'
import { readInstant } from '@/core/predicates/instant'
import { type Payment, PAYMENTS } from '@/core/promotions/promotion'
import type { Store } from '@/core/store/store'
import Joi from 'joi'

const MOST = 50
const MOST_ORDERS = 1_000
const word = Joi.string().max(100)

/** What a cart question may say of promotions. */
export const promotionFields = {
  codes: Joi.array().max(MOST).items(word),
  payment: Joi.valid(...PAYMENTS, null),
  take: Joi.array().max(MOST).items(word),
  leave: Joi.array().max(MOST).items(word),
  orders: Joi.array()
    .max(MOST_ORDERS)
    .items(Joi.object({ at: word.required(), value: Joi.alternatives(word, Joi.number()).required() })),
}

export interface SubmittedFacts {
  readonly codes?: readonly string[]
  readonly payment?: Payment | null
  /** Codes of promotions that are offered, and taken or left. */
  readonly take?: readonly string[]
  readonly leave?: readonly string[]
  /** What the buyer ordered before; left out where nobody knows. */
  readonly orders?: readonly { readonly at: string; readonly value: string | number }[]
}

interface FactError {
  readonly code: 'unknown-promotion' | 'bad-instant' | 'bad-amount'
  readonly where: string
  readonly value: string
  readonly nearest: string | null
  readonly message: string
}

/** What promotions ask of a cart beside its lines; how often they were used is not asked of a question. */
export function readPromotionFacts(
  { promotion }: Store,
  { codes = [], payment = null, take = [], leave = [], orders }: SubmittedFacts,
): { readonly ok: true; readonly value: PromotionFacts } | { readonly ok: false; readonly error: FactError } {
  const fail = (
    code: FactError['code'],
    where: string,
    value: string,
    nearest: string | null,
    right: string,
  ) => ({ ok: false, error: { code, where, value, nearest, message: `“${value}” is not ${right}` } }) as const
  const choices: Record<string, Choice> = {}
  for (const [field, choice, named] of [
    ['take', 'taken', take],
    ['leave', 'left', leave],
  ] as const)
    for (const [at, code] of named.entries()) {
      const found = findByCode(promotion, code)
      const known = [...promotion.values()].map((each) => each.code)
      if (!found)
        return fail('unknown-promotion', `${field}.${at}`, code, findNearest(code, known), 'a promotion')
      choices[found.id] = choice
    }
  const pastOrders: PastOrder[] = []
  for (const [at, each] of (orders ?? []).entries()) {
    const instant = readInstant(each.at)
    const value = parseDecimal(String(each.value))
    if (instant === null)
      return fail('bad-instant', `orders.${at}.at`, each.at, null, 'an instant such as 2027-03-01T00:00:00Z')
    if (value === null)
      return fail('bad-amount', `orders.${at}.value`, String(each.value), null, 'an amount such as 120.00')
    pastOrders.push({ at: instant, value })
  }
  return { ok: true, value: { codes, payment, choices, pastOrders: orders ? pastOrders : null, uses: {} } }
}
