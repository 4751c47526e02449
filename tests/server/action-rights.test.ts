import type * as Doing from '@/server/session/doing'
import { isPermission, withWhatTheyNeed } from '@/core/staff/permission'
import { FIRST_ROLES } from '@/core/staff/role'
import { auditEvents } from '@/server/database/door-schema'
import { eq } from 'drizzle-orm'
import { doors, firstGiven, wrapperOf } from '../fixtures/doors-of-the-code'
import { demoSteppe } from './demo-steppe'
import { jestOf, standInForFramework } from './framework'

process.env['STEPPE_SIGN_IN'] = 'on'
standInForFramework(jestOf(import.meta))
const demo = demoSteppe()
let doing: typeof Doing
beforeAll(async () => {
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(demo.current)
  doing = await import('@/server/session/doing')
}, 60_000)

type Action = (...given: readonly unknown[]) => Promise<unknown>

/** More than any action takes: whoever may do it is told that there is nothing so called, and nothing is done. */
const TOO_MUCH = Array.from({ length: 50 }, () => null)

/** How a call is turned away: 401 for nobody, 403 without a permit, 404 with one. */
async function answerOf(action: Action): Promise<string> {
  try {
    await action(...TOO_MUCH)
    return 'done'
  } catch (error) {
    return (error as Error).message
  }
}

/** Every action of the merchant's pages, with the permission it names. */
async function merchantActions() {
  const named = doors().filter((door) => door.kind === 'action' && wrapperOf(door) === 'merchantAction')
  const actions = []
  for (const door of named) {
    const [file = '', name = ''] = door.name.split(' ')
    const exported = (await import(`@/${file.replace(/\.tsx?$/, '')}`)) as Readonly<Record<string, Action>>
    actions.push({ name: door.name, permission: firstGiven(door), call: exported[name] as Action })
  }
  return actions
}

test('every action is refused to whoever is not signed in, and to every role without its permission', async () => {
  const actions = await merchantActions()
  expect(actions.length).toBeGreaterThan(80)
  let refused = 0
  for (const { name, permission, call } of actions) {
    if (!isPermission(permission)) throw new Error(`${name} names no permission`)
    expect([name, 'nobody', await answerOf(call)]).toEqual([name, 'nobody', '401'])
    for (const role of FIRST_ROLES) {
      const permissions = new Set(withWhatTheyNeed(role.permissions))
      const person = { id: 'p', kind: 'person', name: role.name, email: '', role: role.name } as const
      const doer = { ...person, permissions, narrowings: [], buyers: null }
      const expected = permissions.has(permission) ? '404' : '403'
      if (expected === '403') refused += 1
      expect([name, role.name, await doing.doAs(doer, () => answerOf(call))]).toEqual([
        name,
        role.name,
        expected,
      ])
    }
  }
  expect(refused).toBeGreaterThan(100)
  const noted = await demo.current.database.select().from(auditEvents).where(eq(auditEvents.kind, 'refused'))
  expect(noted).toHaveLength(refused)
}, 120_000)
