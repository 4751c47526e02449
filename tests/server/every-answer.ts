import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { answerQuestions } from '@/server/exchange/price-questions'
import { createHash } from 'node:crypto'

const QUANTITIES = ['1', '12']

/** What everybody would be told of everything, one text a question: who asks, for what and how many, and a digest of the answer. */
export function everyAnswer(prepared: PreparedStore, now: number): readonly string[] {
  const { store } = prepared
  const buyers = [
    { guest: true as const },
    ...[...store.group.values()].map(({ code }) => ({ group: code })),
    ...[...store.account.values()].map(({ code }) => ({ account: code })),
  ]
  return [...store.variant.values()].flatMap(({ sku }, one) =>
    buyers.map((as, other) => {
      const quantity = QUANTITIES[(one + other) % QUANTITIES.length] as string
      const id = `${quantity} × ${sku} for ${JSON.stringify(as)}`
      const answer = JSON.stringify(answerQuestions(prepared, [{ id, as, sku, quantity }], now))
      return `${id}: ${createHash('sha1').update(answer).digest('hex')}`
    }),
  )
}
