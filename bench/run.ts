import { ask } from '@/core/engine/ask'
import { findPrice } from '@/core/engine/price/find-price'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { prepare, refresh } from '@/core/engine/prepare'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { columnMemory } from '@/core/engine/column/column-memory'
import { computeColumn } from '@/core/engine/column/price-column'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { decimal } from '@/core/decimal/decimal'
import { applyChanges, type Change, type Store } from '@/core/store/store'
import { referencePrice } from '@tests/reference/reference-price'
import { IndexedDecimal } from './indexed-decimal'
import { GROUPS, largeStore, numbers } from './large-store'
import { type Contender, measure, median, milliseconds, ratio, type Samples } from './measure'
import { measureTerms, PLAIN_SHARE, PRICED_PLAINLY } from './terms'
import { openSqlColumn } from './sql-column'

const SIZE = { variants: 100_000, lists: 1_000, linesPerList: 1_000, accounts: 200 }
const BOARD = { variants: 10_000, lists: 200, linesPerList: 500, accounts: 200 }
const AT = Date.parse('2027-03-15T12:00:00Z')
const REPETITIONS = 15
const QUESTIONS = 100_000
/** Items asked for again and again, as those on the pages people look at are. */
const ASKED_AGAIN = 1_000
const QUANTITIES = [1, 10, 60]
/** What a board shows at once. */
const WINDOW = { rows: 30, columns: 12 }

/** A typed-array multiply-and-floor pass: the least so many prices could cost. */
function controlPass(source: Float64Array, target: Float64Array): void {
  for (let at = 0; at < source.length; at += 1) target[at] = Math.floor((source[at] as number) * 0.88 + 0.5)
}

/**
 * The least that preparing could cost: going once to every line, its scope and the number of the variant it names. That is
 * waiting for memory, as most of preparing is; a pass over numbers that lie side by side says nothing of it, and is up to ten
 * times as quick on one machine as on another.
 */
function lookAtLines(store: Store, { index }: PreparedStore): number {
  let sum = 0
  for (const { scope } of store['price-line'].values()) {
    const term = scope.include[0]
    if (term?.kind === 'variant') sum += index.numberOf.get(term.variant) ?? 0
  }
  return sum
}

function accountOf(at: number) {
  return { kind: 'account', account: `a${at}` } as const
}

function pricingContextOf(prepared: PreparedStore, account: number) {
  const opened = openPricingContext(prepared, buyerContext(accountOf(account), AT))
  if (!opened.ok) throw new Error(opened.error.code)
  return opened.value
}

/** Written over by every column, as whoever computes many of them one after the other does. */
const ROOM = {
  prices: new Float64Array(SIZE.variants),
  bases: null,
  sources: new Int16Array(SIZE.variants),
  lists: [],
}

function column(prepared: PreparedStore, account: number, quantity = 1): ReturnType<typeof computeColumn> {
  const room = prepared.index.items.length === SIZE.variants ? ROOM : null
  return computeColumn(prepared, pricingContextOf(prepared, account), quantity * 1000, room)
}

function forgetColumns(prepared: PreparedStore): void {
  columnMemory(prepared).columns.clear()
}

function forgetEverything(prepared: PreparedStore): void {
  columnMemory(prepared).columns.clear()
  columnMemory(prepared).flatPrices.clear()
  prepared.pricingContexts.clear()
}

function show(samples: Samples): void {
  for (const [name, values] of samples)
    console.log(`${name.padEnd(46)} ${milliseconds(median(values)).padStart(12)}`)
  console.log()
}

async function main(): Promise<void> {
  const store = largeStore(SIZE)
  console.log(
    `${store.variant.size} variants, ${store['price-list'].size} lists, ${store['price-line'].size} lines, ${store.account.size} accounts`,
  )
  const prepared = prepare(store)
  const indexed = new IndexedDecimal(store, AT)
  const sql = await openSqlColumn(store, AT)
  await compareAnswers(store, prepared, indexed, sql)

  const source = Float64Array.from({ length: SIZE.variants }, (_, at) => 100 + at)
  const target = new Float64Array(SIZE.variants)
  const million = Float64Array.from({ length: 1_000_000 }, (_, at) => 100 + at)
  const millionTarget = new Float64Array(1_000_000)
  const accountsByItems = Float64Array.from({ length: SIZE.accounts * SIZE.variants }, (_, at) => 100 + at)
  const accountsByItemsTarget = new Float64Array(accountsByItems.length)
  const pick = numbers(7)
  // Drawn beforehand: what is timed is the answer, not the making of the question.
  const questions = Array.from({ length: QUESTIONS }, () => `v${pick(SIZE.variants)}`)
  let asked = 0
  const someItem = () => questions[(asked += 1) % QUESTIONS] as string
  const again = () => questions[(asked += 1) % ASKED_AGAIN] as string
  let columns = 0
  const pricingContext = pricingContextOf(prepared, 7)
  const edit = someEdit(store)

  const quick: readonly Contender[] = [
    { name: 'control: one pass', times: 20, run: () => controlPass(source, target) },
    { name: 'control: 1,000,000', times: 2, run: () => controlPass(million, millionTarget) },
    // Columns of many accounts are not read from the processor's near memory, as one pass again and again would be.
    { name: 'control: 20,000,000', times: 1, run: () => controlPass(accountsByItems, accountsByItemsTarget) },
    {
      name: 'one price, warm',
      times: 20_000,
      run: () => findPrice(prepared, pricingContext, prepared.index.numberOf.get(again()) as number),
    },
    { name: 'one price, warm, indexed decimal.js', times: 1_000, run: () => indexed.price('a7', again(), 1) },
    {
      name: 'one price',
      times: 20_000,
      run: () => findPrice(prepared, pricingContext, prepared.index.numberOf.get(someItem()) as number),
    },
    { name: 'one price, indexed decimal.js', times: 1_000, run: () => indexed.price('a7', someItem(), 1) },
    {
      name: 'one answer with its trace',
      times: 5,
      run: () =>
        ask(prepared, {
          ...buyerContext(accountOf(7), AT),
          variant: someItem(),
          quantity: decimal(1),
          extras: [],
          basket: [],
        }),
    },
    {
      name: 'a column from flattened lists',
      times: 8,
      run: () => {
        // One account after the other: lists of some close every cell, those of others leave all to their group's.
        forgetColumns(prepared)
        return column(prepared, (columns += 1) % SIZE.accounts)
      },
    },
    {
      name: 'an edit, then the visible board',
      times: 1,
      run: () => {
        const after = refresh(prepared, applyChanges(store, edit), edit)
        return visibleBoard(after)
      },
    },
  ]
  visibleBoard(prepared)
  // Flattened once, as by the first who looks.
  for (let account = 0; account < SIZE.accounts; account += 1) column(prepared, account)
  const quickly = await measure(quick, REPETITIONS)

  const heavy: readonly Contender[] = [
    quick[0] as Contender,
    quick[1] as Contender,
    {
      name: 'a column, nothing cached',
      times: 1,
      run: () => {
        forgetEverything(prepared)
        return column(prepared, 7)
      },
    },
    {
      name: 'SQL: a column',
      times: 1,
      run: () => sql.column({ account: 'a7', group: `g${7 % GROUPS}`, quantity: 1 }),
    },
    {
      name: '20 million prices, 200 accounts',
      times: 1,
      run: () => {
        forgetColumns(prepared)
        for (let account = 0; account < SIZE.accounts; account += 1) column(prepared, account)
      },
    },
    // Whoever edits has the board before them: without it an edit would pay for making it visible at all. And what
    // `prepare` leaves behind is not to be cleared away at an edit's expense.
    { name: 'the visible board, nothing known', times: 1, run: () => visibleBoard(prepared) },
    { name: 'an edit, then the visible board', times: 1, run: (quick.at(-1) as Contender).run },
    { name: 'prepare', times: 1, run: () => prepare(store) },
    quick[2] as Contender,
    { name: 'control: one look at every line', times: 1, run: () => lookAtLines(store, prepared) },
  ]
  const heavily = await measure(heavy, 5)
  await sql.close()
  const board = await boardFromNothing()
  const growth = await listsGrowing()
  const terms = await measureTerms(prepared, AT, REPETITIONS, indexed)

  show(quickly)
  show(heavily)
  show(board)
  show(growth)
  show(terms)
  const targets: readonly (readonly [what: string, value: number, target: string])[] = [
    [
      'indexed decimal.js against one question, warm',
      ratio(quickly, 'one price, warm, indexed decimal.js', 'one price, warm'),
      '≥ 20, aim 150',
    ],
    [
      'the same of any of 100,000 items, in no order',
      ratio(quickly, 'one price, indexed decimal.js', 'one price'),
      '(told beside it)',
    ],
    [
      'one question, lists of 10,000 lines against 10',
      ratio(growth, 'lists of 10,000', 'lists of 10'),
      '≤ 3, aim 1.5',
    ],
    [
      'SQL against a column, nothing cached',
      ratio(heavily, 'SQL: a column', 'a column, nothing cached'),
      '≥ 100, aim 500',
    ],
    [
      'a column from flattened lists, in passes',
      ratio(quickly, 'a column from flattened lists', 'control: 20,000,000') * SIZE.accounts,
      '≤ 12, aim 5',
    ],
    [
      'SQL against a board of 10,000 × 12 from nothing',
      ratio(board, 'SQL: a board', 'a board from nothing'),
      '≥ 20, aim 50',
    ],
    [
      '20 million prices, in passes over as many',
      ratio(heavily, '20 million prices, 200 accounts', 'control: 20,000,000'),
      '≤ 12, aim 5',
    ],
    [
      'prepare against an edit and the visible board',
      ratio(heavily, 'prepare', 'an edit, then the visible board'),
      '≥ 200, aim 1,000',
    ],
    [
      'prepare 1,000,000 lines, in looks at each of them',
      ratio(heavily, 'prepare', 'control: one look at every line'),
      '≤ 4',
    ],
    [
      'the same, in passes over as many numbers',
      ratio(heavily, 'prepare', 'control: 1,000,000'),
      '(told beside it)',
    ],
    [
      'a plain column against a cart of 200 lines',
      ratio(terms, 'a plain price column', 'a cart of 200 lines'),
      '(a cart in a few milliseconds)',
    ],
    [
      'a cart of 200 lines under 100 promotions, in carts without',
      ratio(terms, 'the same cart under 100 promotions', 'a cart of 200 lines'),
      '≤ 3',
    ],
    [
      'that cart by the plain references, every price looked for',
      ratio(terms, `${PRICED_PLAINLY} (again)`, 'the same cart under 100 promotions (again)') * PLAIN_SHARE,
      '≥ 100',
    ],
    [
      'with its prices indexed, unit by unit in decimal.js',
      ratio(
        terms,
        'the same in decimal.js, unit by unit (again)',
        'the same cart under 100 promotions (again)',
      ),
      '(told beside it)',
    ],
    [
      'a column of promoted prices, in plain columns',
      ratio(terms, 'a column of promoted prices', 'a plain price column'),
      '≤ 2',
    ],
    [
      'a page of 48 products under promotions, in pages without',
      ratio(terms, 'the same page under them', 'a page of 48 products'),
      '≤ 1.5',
    ],
    [
      'a plain column against a page of 48 products',
      ratio(terms, 'a plain price column', 'a page of 48 products'),
      '(a page in a few milliseconds)',
    ],
  ]
  for (const [what, value, target] of targets)
    console.log(`${what.padEnd(62)} ${`${value.toPrecision(3)}×`.padStart(10)}   ${target}`)
}

function visibleBoard(prepared: PreparedStore): number {
  let sum = 0
  for (let account = 0; account < WINDOW.columns; account += 1) {
    const pricingContext = pricingContextOf(prepared, account)
    for (let row = 0; row < WINDOW.rows; row += 1)
      sum += findPrice(prepared, pricingContext, prepared.index.numberOf.get(`v${row}`) as number).units
  }
  return sum
}

function someEdit(store: Store): readonly Change[] {
  const line = store['price-line'].get('n17')
  if (!line) throw new Error('no line')
  const method = { kind: 'fixed', amount: decimal('123.45') } as const
  const after = { ...line, breaks: [{ from: decimal(0), method }] }
  return [{ kind: 'price-line', id: line.id, before: line, after }]
}

/** Whoever is quick and wrong has not won: all must agree first. */
async function compareAnswers(
  store: Store,
  prepared: PreparedStore,
  indexed: IndexedDecimal,
  sql: Awaited<ReturnType<typeof openSqlColumn>>,
): Promise<void> {
  const pick = numbers(99)
  let different = 0
  for (let at = 0; at < QUESTIONS; at += 1) {
    const account = pick(SIZE.accounts)
    const variant = `v${pick(SIZE.variants)}`
    const quantity = QUANTITIES[pick(QUANTITIES.length)] as number
    const number = prepared.index.numberOf.get(variant) as number
    const found = findPrice(prepared, pricingContextOf(prepared, account), number, {
      own: quantity * 1000,
      counted: null,
    })
    if (indexed.price(`a${account}`, variant, quantity) !== found.units) different += 1
  }
  for (const quantity of QUANTITIES) {
    const query = await sql.column({ account: 'a7', group: `g${7 % GROUPS}`, quantity })
    const { prices } = column(prepared, 7, quantity)
    prepared.index.items.forEach((id, number) => {
      if (query.get(id) !== prices[number]) different += 1
    })
  }
  for (let sample = 0; sample < 12; sample += 1) {
    const variant = `v${pick(SIZE.variants)}`
    const account = pick(SIZE.accounts)
    const { unit } = referencePrice(store, {
      ...buyerContext(accountOf(account), AT),
      variant,
      quantity: decimal(1),
      extras: [],
      basket: [],
    })
    const number = prepared.index.numberOf.get(variant) as number
    if (
      Math.abs(Number(unit) * 100 - findPrice(prepared, pricingContextOf(prepared, account), number).units) >
      1e-6
    )
      different += 1
  }
  console.log(
    `Differences on ${QUESTIONS.toLocaleString('en')} questions (indexed decimal.js), 3 columns (SQL), 12 questions (naive reference): ${different}\n`,
  )
  if (different > 0) process.exitCode = 1
}

async function boardFromNothing(): Promise<Samples> {
  const store = largeStore(BOARD)
  const prepared = prepare(store)
  const sql = await openSqlColumn(store, AT)
  const samples = await measure(
    [
      {
        name: 'a board from nothing',
        times: 1,
        run: () => {
          forgetEverything(prepared)
          for (let account = 0; account < WINDOW.columns; account += 1) column(prepared, account)
        },
      },
      {
        name: 'SQL: a board',
        times: 1,
        run: async () => {
          for (let account = 0; account < WINDOW.columns; account += 1)
            await sql.column({ account: `a${account}`, group: `g${account % GROUPS}`, quantity: 1 })
        },
      },
    ],
    3,
  )
  await sql.close()
  return samples
}

/** A hundred lists, of ten lines and of ten thousand. */
async function listsGrowing(): Promise<Samples> {
  const contenders = [10, 10_000].map((linesPerList): Contender => {
    const prepared = prepare(largeStore({ variants: 20_000, lists: 100, linesPerList, accounts: 20 }))
    const pricingContext = pricingContextOf(prepared, 7)
    const pick = numbers(3)
    // A line is compiled when it is first needed: that is not what a question costs from then on.
    computeColumn(prepared, pricingContext, 1000)
    return {
      name: `lists of ${linesPerList.toLocaleString('en')}`,
      times: 20_000,
      run: () => findPrice(prepared, pricingContext, pick(20_000)),
    }
  })
  return measure(contenders, REPETITIONS)
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
