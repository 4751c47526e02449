import { PERMISSIONS } from '@/core/staff/permission'
import { KEY_SCOPES } from '@/core/staff/key-scope'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import ts from 'typescript'

const SOURCE = join(process.cwd(), 'src')

/** What makes an action, a page or an address that can be asked over the network. */
const WRAPPERS = {
  action: ['merchantAction', 'shopAction', 'buyerAction', 'openAction'],
  page: ['merchantPage', 'shopPage', 'openPage'],
  route: ['merchantRoute', 'machineRoute', 'shopRoute', 'openRoute'],
} as const

const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE', 'HEAD', 'OPTIONS']

/** What can be asked, and the call that makes it; `call` is `null` for what no wrapper made. */
interface Door {
  readonly name: string
  readonly kind: keyof typeof WRAPPERS
  readonly call: ts.CallExpression | null
}

function filesIn(folder: string): readonly string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name)
    return entry.isDirectory() ? filesIn(path) : /\.tsx?$/.test(entry.name) ? [path] : []
  })
}

function isExported(node: ts.Statement): boolean {
  return (
    ts.canHaveModifiers(node) &&
    (ts.getModifiers(node) ?? []).some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword)
  )
}

/** Everything a file exports by value, with the expression behind it. */
function exportsOf(file: ts.SourceFile): readonly (readonly [name: string, value: ts.Expression | null])[] {
  return file.statements.flatMap((statement): readonly (readonly [string, ts.Expression | null])[] => {
    if (ts.isExportAssignment(statement)) return [['default', statement.expression]]
    if (ts.isExportDeclaration(statement) && !statement.isTypeOnly) return [[statement.getText(), null]]
    if (!isExported(statement)) return []
    if (ts.isVariableStatement(statement))
      return statement.declarationList.declarations.map((each) => [
        each.name.getText(),
        each.initializer ?? null,
      ])
    if (ts.isFunctionDeclaration(statement)) return [[statement.name?.text ?? 'default', null]]
    return []
  })
}

function doors(): readonly Door[] {
  return filesIn(SOURCE).flatMap((path) => {
    const text = readFileSync(path, 'utf8')
    const short = path.slice(SOURCE.length + 1)
    const kind = text.startsWith("'use server'")
      ? 'action'
      : /^app\/.*\bpage\.tsx$/.test(short)
        ? 'page'
        : /^app\/.*\broute\.ts$/.test(short)
          ? 'route'
          : null
    if (kind === null) return []
    const file = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true)
    return exportsOf(file)
      .filter(([name]) => kind !== 'page' || name === 'default')
      .filter(([name]) => kind !== 'route' || METHODS.includes(name))
      .map(([name, value]) => ({
        ...{ kind, name: `${short} ${name}` },
        call: value && ts.isCallExpression(value) ? value : null,
      }))
  })
}

const ALL = doors()

function wrapperOf({ call }: Door): string {
  return call?.expression.getText() ?? ''
}

test('everything that can be asked is made by a wrapper that names its permit', () => {
  expect(ALL.filter(({ kind }) => kind === 'action').length).toBeGreaterThan(100)
  expect(ALL.filter(({ kind }) => kind === 'page').length).toBeGreaterThan(50)
  expect(ALL.filter(({ kind }) => kind === 'route').length).toBeGreaterThan(35)
  const open = ALL.filter((door) => !(WRAPPERS[door.kind] as readonly string[]).includes(wrapperOf(door)))
  expect(open.map(({ name }) => name)).toEqual([])
})

test('each permit is one there is', () => {
  const named = ALL.filter((door) => /^merchant/.test(wrapperOf(door))).map(({ name, call }) => {
    const [given] = call?.arguments ?? []
    return [name, given && ts.isStringLiteral(given) ? given.text : '']
  })
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
    'app/first-start/page.tsx default',
    'app/health/route.ts GET',
    'app/page.tsx default',
    'app/ready/route.ts GET',
    'app/sign-in/lost/page.tsx default',
    'app/sign-in/page.tsx default',
    'app/sign-in/password/page.tsx default',
    'app/sign-in/second/page.tsx default',
    'features/sign-in/sign-in-actions.ts askPassword',
    'features/sign-in/sign-in-actions.ts giveSecond',
    'features/sign-in/sign-in-actions.ts setPassword',
    'features/sign-in/sign-in-actions.ts signIn',
    'features/sign-in/sign-in-actions.ts startAsOwner',
  ])
  for (const { call } of open) {
    const [why] = call?.arguments ?? []
    expect(why && ts.isStringLiteral(why) && why.text.length > 5).toBe(true)
  }
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
