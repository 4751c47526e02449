import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import ts from 'typescript'

/** What tells whose side a request is on, and stops whoever has no business there. */
const DOORS = ['asMerchant', 'enterShopPage', 'enterShop', 'shopVisitor']

/** Actions that pass no door, and why they need none. */
const OPEN: Readonly<Record<string, string>> = {
  'features/shop/entrance/shop-actions.ts choosePlace': 'changes nothing but where the visitor is',
  'features/shop/entrance/shop-actions.ts leavePasscode': 'forgets what the visitor themselves typed',
}

const SOURCE = join(process.cwd(), 'src')

function filesIn(folder: string): readonly string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name)
    return entry.isDirectory() ? filesIn(path) : /\.tsx?$/.test(entry.name) ? [path] : []
  })
}

/** Names of what is called by plain name anywhere within a piece of code. */
function callsIn(node: ts.Node): ReadonlySet<string> {
  const found = new Set<string>()
  const visit = (each: ts.Node): void => {
    if (ts.isCallExpression(each) && ts.isIdentifier(each.expression)) found.add(each.expression.text)
    ts.forEachChild(each, visit)
  }
  visit(node)
  return found
}

/** Every exported action, with whether it, or a function of its own file that it calls, passes a door. */
function actions(): readonly { readonly name: string; readonly isGuarded: boolean }[] {
  return filesIn(SOURCE).flatMap((path) => {
    const text = readFileSync(path, 'utf8')
    if (!text.startsWith("'use server'")) return []
    const file = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true)
    const functions = new Map<string, ts.FunctionDeclaration>()
    const exported: string[] = []
    for (const statement of file.statements) {
      if (!ts.isFunctionDeclaration(statement) || !statement.name) continue
      functions.set(statement.name.text, statement)
      if (statement.modifiers?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword))
        exported.push(statement.name.text)
    }
    const reaches = (name: string, seen: Set<string>): boolean => {
      const declared = functions.get(name)
      if (!declared || seen.has(name)) return false
      seen.add(name)
      return [...callsIn(declared)].some((call) => DOORS.includes(call) || reaches(call, seen))
    }
    return exported.map((name) => ({
      name: `${path.slice(SOURCE.length + 1)} ${name}`,
      isGuarded: reaches(name, new Set()),
    }))
  })
}

test('every action a page can call passes a door, or is named here with the reason', () => {
  const all = actions()
  expect(all.length).toBeGreaterThan(100)
  expect(all.filter(({ isGuarded }) => !isGuarded).map(({ name }) => name)).toEqual(Object.keys(OPEN))
})
