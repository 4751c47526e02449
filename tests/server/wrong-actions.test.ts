import type * as Doing from '@/server/session/doing'
import type * as Doers from '@/server/session/doer'
import { doors, shapesOf, wrapperOf } from '../fixtures/doors-of-the-code'
import { demoSteppe } from './demo-steppe'
import { jestOf, leadsTo, standInForShop } from './framework'
import { wrongArguments } from './wrong-arguments'

const ROUNDS = Number(process.env['STEPPE_WRONG_ACTIONS'] ?? 64)
/** Nobody waits longer for an answer (milliseconds). */
const PATIENCE = 10_000

let side: 'shop' | 'merchant' = 'merchant'
const browsers = standInForShop(jestOf(import.meta), () => side)
const demo = demoSteppe()
let doing: typeof Doing
let doers: typeof Doers
beforeAll(async () => {
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(demo.current)
  doing = await import('@/server/session/doing')
  doers = await import('@/server/session/doer')
}, 60_000)

type Action = (...given: readonly unknown[]) => Promise<unknown>

/** What went wrong that nobody meant: being led elsewhere or turned away is an answer. */
async function faultOf(action: Action, given: readonly unknown[]): Promise<string | null> {
  let timer: NodeJS.Timeout | undefined
  const late = new Promise<string>((resolve) => {
    timer = setTimeout(() => resolve(`no answer within ${PATIENCE} ms`), PATIENCE)
  })
  const answered = leadsTo(doing.doAs(doers.AT_THIS_MACHINE, () => action(...given))).then(
    () => null,
    (error: Error) => (/^40[134]$/.test(error.message) ? null : (error.stack ?? error.message)),
  )
  const fault = await Promise.race([answered, late])
  clearTimeout(timer)
  return fault
}

test(`every action bears whatever is sent in the shapes it takes, ${ROUNDS} times`, async () => {
  const faults: string[] = []
  const all = doors().filter(({ kind }) => kind === 'action')
  expect(all.length).toBeGreaterThan(100)
  for (const [at, door] of all.entries()) {
    const [file = '', name = ''] = door.name.split(' ')
    const exported = (await import(`@/${file.replace(/\.tsx?$/, '')}`)) as Readonly<Record<string, Action>>
    side = /^(shop|buyer)/.test(wrapperOf(door)) ? 'shop' : 'merchant'
    browsers.use(door.name)
    for (let round = 0; round < ROUNDS; round += 1) {
      const given = wrongArguments(shapesOf(door), at * 1_000 + round)
      const fault = await faultOf(exported[name] as Action, given)
      if (fault) {
        faults.push(`${door.name} ${JSON.stringify(given).slice(0, 300)}\n${fault.slice(0, 500)}`)
        break
      }
    }
  }
  expect(faults).toEqual([])
}, 900_000)
