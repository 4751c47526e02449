import { decimal } from '@/core/decimal/decimal'
import { commit } from '@/server/changes/commit'
import { followOthers, untilUpToDate } from '@/server/changes/follow'
import type { ChangeRequest } from '@/server/changes/weigh'
import { openSteppe, type Steppe } from '@/server/engine/steppe'
import { placeOrder } from '@/server/orders/place-order'
import { writeCart } from '@/server/shop/cart-store'
import { liveTarget, liveView, revisionOf } from '@/server/views/view'
import { createInterface } from 'node:readline'
import { orderDocument } from '../fixtures/order-document'
import { everyAnswer } from './every-answer'

/** What a worker is told, a line each. */
export type WorkerCommand =
  /** Change prices so often, and order in between; says each number that is safe. */
  | { readonly do: 'write'; readonly count: number; readonly seed: number }
  | { readonly do: 'answer' }
  | { readonly do: 'end' }

/** What a worker says, a line each. */
export type WorkerWord =
  | { readonly said: 'open' | 'written' }
  | { readonly said: 'changed'; readonly changeSet: number; readonly product: string; readonly price: string }
  | { readonly said: 'ordered'; readonly number: number; readonly variant: string }
  | { readonly said: 'short' }
  | { readonly said: 'answers'; readonly changeSet: number; readonly answers: readonly string[] }

const AT = new Date('2026-11-25T09:00:00Z')
/** Few enough that two often want the same. */
const PRODUCTS = 12

function say(word: WorkerWord): void {
  process.stdout.write(`${JSON.stringify(word)}\n`)
}

/** Numbers that look like chance, the same for the same seed (a linear congruential generator; Numerical Recipes' constants, from memory). */
function numbersFrom(seed: number): () => number {
  let state = seed >>> 0
  return () => (state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32
}

/** Changes the price of one product, as somebody does who looks again whenever another was quicker. */
async function change(steppe: Steppe, product: string, price: string): Promise<number> {
  for (;;) {
    const record = liveView(steppe).prepared.store.product.get(product)
    const seen = revisionOf(liveTarget(steppe), 'product', product)
    const request = { kind: 'product', id: product, seen, after: { ...record, basePrice: price } }
    const note = { author: 'Worker', note: price, at: AT }
    const outcome = await commit(liveTarget(steppe), [request as unknown as ChangeRequest], note)
    if (outcome.ok) return outcome.changeSet
    if (outcome.code !== 'stale') throw new Error(outcome.code)
  }
}

async function order(steppe: Steppe, cart: string): Promise<void> {
  const variant = 'variant-QU-NB-CC'
  const wanted = [{ variant, quantity: decimal(1), extras: [] }]
  await writeCart(steppe, cart, wanted)
  const owner = { account: null, visitor: cart }
  const placed = await placeOrder(steppe, { owner, document: orderDocument(wanted), at: AT })
  if (placed.ok) say({ said: 'ordered', number: placed.number, variant })
  else if (placed.code === 'short') say({ said: 'short' })
  else throw new Error(placed.code)
}

async function write(steppe: Steppe, count: number, seed: number): Promise<void> {
  const random = numbersFrom(seed)
  const products = [...liveView(steppe).prepared.store.product.keys()].slice(0, PRODUCTS)
  for (let at = 0; at < count; at += 1) {
    const product = products[Math.floor(random() * products.length)] as string
    const price = `${10 + at}.${seed % 10}${at % 10}`
    say({ said: 'changed', changeSet: await change(steppe, product, price), product, price })
    if (at % 4 === 0) await order(steppe, `worker-${seed}-${at}`)
  }
  say({ said: 'written' })
}

async function main(directory: string): Promise<void> {
  const steppe = await openSteppe(directory)
  await followOthers(steppe)
  say({ said: 'open' })
  for await (const line of createInterface({ input: process.stdin })) {
    const command = JSON.parse(line) as WorkerCommand
    if (command.do === 'write') await write(steppe, command.count, command.seed)
    else if (command.do === 'answer') {
      await untilUpToDate(steppe)
      const answers = everyAnswer(liveView(steppe).prepared, AT.getTime())
      say({ said: 'answers', changeSet: steppe.lastChangeSet, answers })
    } else break
  }
  await steppe.close()
  process.exit(0)
}

main(process.argv[2] as string).catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
