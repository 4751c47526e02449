import { ask } from '@/core/engine/ask'
import { prepare, refresh } from '@/core/engine/prepare'
import { computeColumn, findPrice } from '@/core/engine/price-column'
import { decimal } from '@/core/decimal/decimal'
import { applyChanges, type Change } from '@/core/store/store'
import { referencePrice } from '@tests/reference/reference-price'
import { largeStore } from './large-store'
import { type Contender, measure, median, milliseconds, ratio } from './measure'
import { openSqlColumn } from './sql-column'

const SIZE = { variants: 100_000, lists: 200, linesPerList: 500 }
const REPETITIONS = 15
const BUYER = { kind: 'group', group: 'g3' } as const
/** How many cells of a column the slow reference is asked, to stand for the whole. */
const SAMPLED = 20

/** A typed-array multiply-and-floor pass: the least a column of prices could cost. */
function controlPass(source: Float64Array, target: Float64Array): void {
  for (let at = 0; at < source.length; at += 1) target[at] = Math.floor((source[at] as number) * 0.88 + 0.5)
}

async function main(): Promise<void> {
  const store = largeStore(SIZE)
  console.log(
    `Store: ${store.variant.size} variants, ${store['price-list'].size} lists, ${store['price-line'].size} lines`,
  )
  const prepared = prepare(store)
  const sql = await openSqlColumn(store)

  await compareAnswers()
  const target = new Float64Array(prepared.base.length)
  let turn = 0
  const someVariant = () => `v${(turn += 7919) % SIZE.variants}`
  const edit = someEdit()
  const contenders: readonly Contender[] = [
    { name: 'control: one pass', times: 20, run: () => controlPass(prepared.base, target) },
    { name: 'one price', times: 20_000, run: () => findPrice(prepared, BUYER, someVariant()) },
    {
      name: 'one answer with its trace',
      times: 200,
      run: () => ask(prepared, { buyer: BUYER, variant: someVariant() }),
    },
    { name: 'a column', times: 2, run: () => computeColumn(prepared, BUYER) },
    {
      name: 'an edit, then its column',
      times: 1,
      run: () => computeColumn(refresh(prepared, edit.next, edit.changes), BUYER),
    },
  ]
  const slow: readonly Contender[] = [
    ...contenders.filter(({ name }) => name === 'a column' || name === 'one price'),
    { name: 'reference: one price', times: 1, run: () => referencePrice(store, BUYER, someVariant()) },
    { name: 'SQL: a column', times: 1, run: () => sql.column(BUYER.group) },
    { name: 'prepare', times: 1, run: () => prepare(store) },
  ]
  const quick = await measure(contenders, REPETITIONS)
  const heavy = await measure(slow, 3)

  for (const samples of [quick, heavy]) {
    for (const [name, values] of samples)
      console.log(`${name.padEnd(28)} ${milliseconds(median(values)).padStart(12)}`)
    console.log()
  }
  const tell = (what: string, value: number) =>
    console.log(`${what.padEnd(58)} ${value.toFixed(1).padStart(10)}×`)
  tell('a column, in control passes', ratio(quick, 'a column', 'control: one pass'))
  tell(
    'an edit and its column, in control passes',
    ratio(quick, 'an edit, then its column', 'control: one pass'),
  )
  tell('prepare, in columns', ratio(heavy, 'prepare', 'a column'))
  tell('naive reference against one price', ratio(heavy, 'reference: one price', 'one price'))
  tell('one SQL query against a column', ratio(heavy, 'SQL: a column', 'a column'))
  await sql.close()

  /** Whoever is quick and wrong has not won: all must agree first. */
  async function compareAnswers(): Promise<void> {
    const column = computeColumn(prepared, BUYER)
    const query = await sql.column(BUYER.group)
    let different = 0
    prepared.index.variants.forEach((id, number) => {
      if (
        query.get(id) !== column?.prices[number] ||
        findPrice(prepared, BUYER, id)?.units !== column?.prices[number]
      )
        different += 1
    })
    for (let sample = 0; sample < SAMPLED; sample += 1) {
      const id = `v${(sample * 4_999) % SIZE.variants}`
      const units = column?.prices[prepared.index.numberOf.get(id) as number] as number
      if (Number(referencePrice(store, BUYER, id).unit) * 100 - units > 1e-6) different += 1
    }
    console.log(`Differences between engine, SQL and reference: ${different}\n`)
    if (different > 0) process.exitCode = 1
  }

  function someEdit() {
    const product = store.product.get('p17')
    if (!product) throw new Error('no product')
    const changes: Change[] = [
      {
        kind: 'product',
        id: product.id,
        before: product,
        after: { ...product, basePrice: decimal('123.45') },
      },
    ]
    return { changes, next: applyChanges(store, changes) }
  }
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
