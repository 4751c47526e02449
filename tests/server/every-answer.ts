import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { answerQuestions } from '@/server/exchange/price-questions'

const QUANTITIES = ['1', '12']

/** What everybody would be told of everything, one text a question: who asks, for what and how many, and the answer. */
export function everyAnswer(prepared: PreparedStore, now: number): readonly string[] {
  const { store } = prepared
  const buyers = [
    { guest: true as const },
    ...[...store.group.values()].map(({ code }) => ({ group: code })),
    ...[...store.account.values()].map(({ code }) => ({ account: code })),
  ]
  return [...store.variant.values()].flatMap(({ sku }) =>
    buyers.flatMap((as) => {
      const questions = QUANTITIES.map((quantity) => ({
        id: `${sku} ${quantity} ${JSON.stringify(as)}`,
        as,
        sku,
        quantity,
      }))
      return (answerQuestions(prepared, questions, now) ?? []).map((answer) => JSON.stringify(answer))
    }),
  )
}
