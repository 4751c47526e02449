import { PERMISSIONS } from '@/core/staff/permission'
import { KEY_SCOPES } from '@/core/staff/key-scope'
import { readFileSync } from 'node:fs'
import ts from 'typescript'
import { doors, filesIn, firstGiven, SOURCE, wrapperOf, WRAPPERS } from '@tests/fixtures/doors-of-the-code'

const ALL = doors()

test('everything that can be asked is made by a wrapper that names its permit', () => {
  expect(ALL.filter(({ kind }) => kind === 'action').length).toBeGreaterThan(100)
  expect(ALL.filter(({ kind }) => kind === 'page').length).toBeGreaterThan(50)
  expect(ALL.filter(({ kind }) => kind === 'route').length).toBeGreaterThan(35)
  const open = ALL.filter((door) => !(WRAPPERS[door.kind] as readonly string[]).includes(wrapperOf(door)))
  expect(open.map(({ name }) => name)).toEqual([])
})

test('each permit is one there is', () => {
  const named = ALL.filter((door) => /^merchant/.test(wrapperOf(door))).map(
    (door) => [door.name, firstGiven(door)] as const,
  )
  expect(named.filter(([, permission]) => !PERMISSIONS.includes(permission as never))).toEqual([])
  const machines = ALL.filter((door) => wrapperOf(door) === 'machineRoute').map(({ call }) =>
    call?.arguments[0]?.getText(),
  )
  for (const text of machines) {
    expect(KEY_SCOPES.some((scope) => text?.includes(`scope: '${scope}'`))).toBe(true)
    expect(PERMISSIONS.some((permission) => text?.includes(`permission: '${permission}'`))).toBe(true)
  }
})

test('what is open to everybody says why, and is little', () => {
  const open = ALL.filter((door) => /^open/.test(wrapperOf(door)))
  expect(open.map(({ name }) => name).sort()).toEqual([
    'app/api/openapi.json/route.ts GET',
    'app/first-start/page.tsx default',
    'app/health/route.ts GET',
    'app/page.tsx default',
    'app/ready/route.ts GET',
    'app/sign-in/lost/page.tsx default',
    'app/sign-in/page.tsx default',
    'app/sign-in/password/page.tsx default',
    'app/sign-in/second/page.tsx default',
    'features/sign-in/sign-in-actions.ts askForPasskey',
    'features/sign-in/sign-in-actions.ts askPassword',
    'features/sign-in/sign-in-actions.ts giveSecond',
    'features/sign-in/sign-in-actions.ts setPassword',
    'features/sign-in/sign-in-actions.ts signIn',
    'features/sign-in/sign-in-actions.ts signInWithPasskey',
    'features/sign-in/sign-in-actions.ts startAsOwner',
  ])
  for (const door of open) expect(firstGiven(door).length).toBeGreaterThan(5)
})

test('nothing of the shop is done with a permit of the merchant, and the other way round', () => {
  const misplaced = ALL.filter((door) => {
    const isShops =
      /^(app|features)\/(api\/)?shop\//.test(door.name) || door.name.startsWith('app/api/pictures/[name]')
    return isShops
      ? /^(merchantPage|merchantRoute|machine)/.test(wrapperOf(door))
      : /^(shop|buyer)/.test(wrapperOf(door))
  })
  expect(misplaced.map(({ name }) => name)).toEqual([])
})

test('an action behind a form takes the form, which the framework gives it whether it reads it or not', () => {
  const inForms = new Set(
    filesIn(SOURCE)
      .filter((path) => path.endsWith('.tsx'))
      .flatMap((path) => [...readFileSync(path, 'utf8').matchAll(/<form\b[^>]*?\baction=\{(\w+)\}/gs)])
      .map(([, name]) => name ?? ''),
  )
  const behind = ALL.filter(({ kind, name }) => kind === 'action' && inForms.has(name.split(' ')[1] ?? ''))
  expect(behind.length).toBeGreaterThan(10)
  const takesNone = behind.filter(({ call }) => {
    const shapes = call?.arguments.find((given) => ts.isArrayLiteralExpression(given))
    return shapes !== undefined && !shapes.getText().includes('FORM')
  })
  expect(takesNone.map(({ name }) => name)).toEqual([])
})
