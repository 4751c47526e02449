import { commit } from '@/server/changes/commit'
import { followOthers } from '@/server/changes/follow'
import { seedDemo } from '@/server/changes/seed-demo'
import type { ChangeRequest } from '@/server/changes/weigh'
import { openSteppe, type Steppe } from '@/server/engine/steppe'
import { liveTarget, liveView, revisionOf } from '@/server/views/view'
import { type ChildProcess, fork } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout } from 'node:timers/promises'
import { startPostgres } from '../scripts/postgres.mjs'

/** Changes whose way to the other processes is measured, and how many follow one another within a second. */
const CHANGES = 100
const A_SECOND = 10
/** Changes each writes when all write at once. */
const AT_ONCE = 100
const AT = new Date('2026-11-25T09:00:00Z')

/** What a process is told, and what it says. */
type Told = { readonly do: 'write'; readonly count: number; readonly pause: number } | { readonly do: 'end' }
type Said =
  | { readonly said: 'open' | 'written' }
  /** It knows a change set since an instant (epoch milliseconds). */
  | { readonly said: 'knows'; readonly changeSet: number; readonly at: number }
  | { readonly said: 'wrote'; readonly changeSet: number; readonly at: number }

async function reprice(steppe: Steppe, product: string, price: string): Promise<number> {
  for (;;) {
    const after = { ...liveView(steppe).prepared.store.product.get(product), basePrice: price }
    const seen = revisionOf(liveTarget(steppe), 'product', product)
    const request = { kind: 'product', id: product, seen, after } as unknown as ChangeRequest
    const outcome = await commit(liveTarget(steppe), [request], { author: 'Bench', note: price, at: AT })
    if (outcome.ok) return outcome.changeSet
    if (outcome.code !== 'stale') throw new Error(outcome.code)
  }
}

/** One of the processes. */
async function work(directory: string, product: string): Promise<void> {
  const say = (word: Said) => process.send?.(word)
  const steppe = await openSteppe(directory)
  await followOthers(steppe)
  let known = steppe.lastChangeSet
  setInterval(() => {
    while (known < steppe.lastChangeSet) say({ said: 'knows', changeSet: (known += 1), at: Date.now() })
  }, 1)
  process.on('message', (told: Told) => {
    if (told.do === 'end') void steppe.close().then(() => process.exit(0))
    else
      void (async () => {
        for (let at = 0; at < told.count; at += 1) {
          const changeSet = await reprice(steppe, product, `${20 + at}.50`)
          say({ said: 'wrote', changeSet, at: Date.now() })
          if (told.pause > 0) await setTimeout(told.pause)
        }
        say({ said: 'written' })
      })()
  })
  say({ said: 'open' })
}

function until(child: ChildProcess, word: Said['said']): Promise<void> {
  return new Promise((resolve) => {
    const hear = (said: Said) => {
      if (said.said !== word) return
      child.off('message', hear)
      resolve()
    }
    child.on('message', hear)
  })
}

function quantile(numbers: readonly number[], share: number): number {
  return [...numbers].sort((one, other) => one - other)[Math.floor(share * (numbers.length - 1))] ?? 0
}

async function measure(directory: string, count: number, products: readonly string[]): Promise<void> {
  const children = Array.from({ length: count }, (_, at) =>
    fork(process.argv[1] as string, [directory, products[at] as string], { execArgv: process.execArgv }),
  )
  await Promise.all(children.map((child) => until(child, 'open')))
  const wrote = new Map<number, number>()
  const lags: number[] = []
  const waiting: { readonly changeSet: number; readonly at: number }[] = []
  children.forEach((child, at) =>
    child.on('message', (said: Said) => {
      if (said.said === 'wrote') wrote.set(said.changeSet, said.at)
      if (said.said === 'knows' && at > 0) waiting.push(said)
    }),
  )
  const [writer] = children
  const written = until(writer as ChildProcess, 'written')
  writer?.send({ do: 'write', count: CHANGES, pause: 1_000 / A_SECOND } satisfies Told)
  await written
  await setTimeout(500)
  for (const { changeSet, at } of waiting) lags.push(Math.max(0, at - (wrote.get(changeSet) ?? at)))

  const began = performance.now()
  const all = children.map((child) => until(child, 'written'))
  for (const child of children) child.send({ do: 'write', count: AT_ONCE, pause: 0 } satisfies Told)
  await Promise.all(all)
  const rate = (count * AT_ONCE * 1_000) / (performance.now() - began)
  const lag =
    count === 1
      ? ''
      : `others know a change after ${quantile(lags, 0.5)} ms at the median, ${quantile(lags, 0.99)} ms at p99; `
  console.log(
    `${count} ${count === 1 ? 'process' : 'processes'}: ${lag}${rate.toFixed(0)} changes a second when all write at once`,
  )
  const ended = children.map((child) => new Promise((resolve) => child.once('exit', resolve)))
  for (const child of children) child.send({ do: 'end' } satisfies Told)
  await Promise.all(ended)
}

async function main(): Promise<void> {
  const server = await startPostgres()
  process.env['DATABASE_URL'] = server.url
  const directory = mkdtempSync(join(tmpdir(), 'steppe-bench-'))
  const steppe = await openSteppe(directory)
  await seedDemo(steppe)
  const products = [...liveView(steppe).prepared.store.product.keys()]
  await steppe.close()
  for (const count of [1, 2, 4]) await measure(directory, count, products)
  rmSync(directory, { recursive: true, force: true })
  await server.remove()
}

const [, , directory, product] = process.argv
await (directory && product ? work(directory, product) : main())
