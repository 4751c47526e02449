import { seedDemo } from '@/server/changes/seed-demo'
import { orders } from '@/server/database/selling-schema'
import { openSteppe } from '@/server/engine/steppe'
import { readStock } from '@/server/stock/stock-levels'
import { liveView } from '@/server/views/view'
import { asc } from 'drizzle-orm'
import type { ChildProcess } from 'node:child_process'
import { createInterface } from 'node:readline'
import { everyAnswer } from './every-answer'
import { program } from './program'
import { freshDirectory, isOnServer } from './temporary-directory'
import type { WorkerCommand, WorkerWord } from './worker'

/** Several processes need a database on a server. */
const onServer = isOnServer ? describe : describe.skip
const AT = new Date('2026-11-25T09:00:00Z').getTime()
const PROCESSES = 4
const COMMITS_EACH = 500

onServer('several processes on one database', () => {
  const directory = freshDirectory()
  afterAll(() => directory.remove())
  const worker = program('worker')

  /** A process, with whatever it has said so far. */
  class Worker {
    readonly said: WorkerWord[] = []
    private readonly unheard: WorkerWord[] = []
    private readonly child: ChildProcess
    private readonly waiting: {
      readonly for: WorkerWord['said']
      readonly resolve: (word: WorkerWord) => void
    }[] = []
    readonly ended: Promise<number | null>

    constructor() {
      this.child = worker.start([directory.path], ['pipe', 'pipe', 'inherit'])
      this.ended = new Promise((resolve) => this.child.once('exit', resolve))
      createInterface({ input: this.child.stdout as NodeJS.ReadableStream }).on('line', (line) => {
        const word = JSON.parse(line) as WorkerWord
        this.said.push(word)
        const at = this.waiting.findIndex((each) => each.for === word.said)
        if (at >= 0) this.waiting.splice(at, 1)[0]?.resolve(word)
        else this.unheard.push(word)
      })
    }

    /** The next word of a kind that nobody has heard yet. */
    hears(word: WorkerWord['said']): Promise<WorkerWord> {
      const at = this.unheard.findIndex(({ said }) => said === word)
      const known = at < 0 ? undefined : this.unheard.splice(at, 1)[0]
      if (known) return Promise.resolve(known)
      return new Promise((resolve) => this.waiting.push({ for: word, resolve }))
    }

    tell(command: WorkerCommand): void {
      this.child.stdin?.write(`${JSON.stringify(command)}\n`)
    }

    kill(): void {
      this.child.kill('SIGKILL')
    }
  }

  async function start(count: number): Promise<readonly Worker[]> {
    const workers = Array.from({ length: count }, () => new Worker())
    await Promise.all(workers.map((each) => each.hears('open')))
    return workers
  }

  const changesOf = (workers: readonly Worker[]) =>
    workers.flatMap(({ said }) => said.filter((word) => word.said === 'changed'))

  /** What a process that reads the database anew tells everybody, and what lies in it. */
  async function afresh(answersToo = true) {
    const steppe = await openSteppe(directory.path)
    const { prepared } = liveView(steppe)
    const found = {
      answers: answersToo ? everyAnswer(prepared, AT) : [],
      changeSet: steppe.lastChangeSet,
      prices: new Map([...prepared.store.product].map(([id, { basePrice }]) => [id, basePrice])),
      numbers: (
        await steppe.database.select({ number: orders.number }).from(orders).orderBy(asc(orders.number))
      ).map(({ number }) => number),
      stock: (await readStock(steppe.database)).get('variant-QU-NB-CC'),
    }
    await steppe.close()
    return found
  }

  beforeAll(async () => {
    const steppe = await openSteppe(directory.path)
    await seedDemo(steppe)
    await steppe.close()
  }, 60_000)

  test('two thousand changes from four at once: no number twice or left out, and all answer like one that starts anew', async () => {
    const before = await afresh(false)
    const workers = await start(PROCESSES)
    workers.forEach((each, at) => each.tell({ do: 'write', count: COMMITS_EACH, seed: at + 1 }))
    await Promise.all(workers.map((each) => each.hears('written')))
    const changes = changesOf(workers).sort((one, other) => one.changeSet - other.changeSet)
    expect(changes.map(({ changeSet }) => changeSet)).toEqual(
      Array.from({ length: PROCESSES * COMMITS_EACH }, (_, at) => before.changeSet + 1 + at),
    )

    workers.forEach((each) => each.tell({ do: 'answer' }))
    const told = await Promise.all(workers.map((each) => each.hears('answers')))
    const now = await afresh()
    for (const word of told) {
      if (word.said !== 'answers') throw new Error(word.said)
      expect(word.changeSet).toBe(now.changeSet)
      expect(word.answers).toEqual(now.answers)
    }
    // Each product costs what the last of them all said.
    const last = new Map(changes.map(({ product, price }) => [product, Number(price)]))
    for (const [product, price] of last) expect(Number(now.prices.get(product))).toBe(price)
    expect(now.answers.length).toBeGreaterThan(5_000)

    const ordered = workers.flatMap(({ said }) => said.filter((word) => word.said === 'ordered'))
    const numbers = ordered.map(({ number }) => number).sort((one, other) => one - other)
    expect(numbers).toEqual(now.numbers)
    expect(numbers).toEqual(numbers.map((_, at) => (numbers[0] as number) + at))
    expect(Number(now.stock?.reserved)).toBe(numbers.length)
    const most = Number(now.stock?.onHand)
    expect(numbers.length).toBe(Math.min(most, (PROCESSES * COMMITS_EACH) / 4))
    workers.forEach((each) => each.tell({ do: 'end' }))
    await Promise.all(workers.map(({ ended }) => ended))
  }, 600_000)

  test('whichever is killed, at whatever instant, nothing it said is lost, and the others go on', async () => {
    const before = await afresh(false)
    const workers = await start(PROCESSES)
    workers.forEach((each, at) => each.tell({ do: 'write', count: 60, seed: at + 11 }))
    const [first, second, ...others] = workers as readonly [Worker, Worker, ...Worker[]]
    await first.hears('changed')
    first.kill()
    await second.hears('changed')
    second.kill()
    await Promise.all(others.map((each) => each.hears('written')))
    const now = await afresh()
    const said = changesOf(workers)
    expect(new Set(said.map(({ changeSet }) => changeSet)).size).toBe(said.length)
    // Beyond what was said, each of the killed may have made one more that it could not say.
    const made = now.changeSet - before.changeSet
    expect(made).toBeGreaterThanOrEqual(said.length)
    expect(made).toBeLessThanOrEqual(said.length + 2)
    others.forEach((each) => each.tell({ do: 'answer' }))
    for (const word of await Promise.all(others.map((each) => each.hears('answers'))))
      expect(word).toMatchObject({ changeSet: now.changeSet, answers: now.answers })
    others.forEach((each) => each.tell({ do: 'end' }))
    await Promise.all(others.map(({ ended }) => ended))
  }, 300_000)
})
