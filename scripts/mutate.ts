// `npm run mutate`: changes the core in one small way after another, in a copy, and sees whether its tests notice.
// `-- --sample 150 --seed 1 --only src/core/tax` narrows what is tried; the same seed tries the same changes.
import { spawnSync } from 'node:child_process'
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import ts from 'typescript'

interface Mutant {
  readonly file: string
  readonly line: number
  readonly start: number
  readonly end: number
  readonly was: string
  readonly becomes: string
}

const { values } = parseArgs({
  options: {
    sample: { type: 'string', default: '150' },
    seed: { type: 'string', default: '1' },
    only: { type: 'string', default: 'src/core' },
  },
})

/** What an operator is mistaken for. */
const MISTAKES: Readonly<Record<string, string>> = {
  '<': '<=',
  '<=': '<',
  '>': '>=',
  '>=': '>',
  '===': '!==',
  '!==': '===',
  '&&': '||',
  '||': '&&',
  '??': '&&',
  '+': '-',
  '-': '+',
  '*': '/',
  true: 'false',
  false: 'true',
}

/** Changes that a program of this shape could carry by mistake; none in texts, types or imports. */
function mutantsOf(file: string): Mutant[] {
  const text = readFileSync(file, 'utf8')
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.ES2022, true)
  const found: Mutant[] = []
  const add = (node: ts.Node, becomes: string) => {
    const start = node.getStart(source)
    const line = source.getLineAndCharacterOfPosition(start).line + 1
    found.push({ file, line, start, end: node.end, was: node.getText(source), becomes })
  }
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isInterfaceDeclaration(node)) return
    if (ts.isBinaryExpression(node)) {
      const mistake = MISTAKES[node.operatorToken.getText(source)]
      if (mistake) add(node.operatorToken, mistake)
    } else if (node.kind === ts.SyntaxKind.TrueKeyword || node.kind === ts.SyntaxKind.FalseKeyword) {
      add(node, MISTAKES[node.getText(source)] as string)
    } else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken) {
      add(node, node.operand.getText(source))
    } else if (ts.isNumericLiteral(node) && /^[01]$/.test(node.text)) {
      add(node, node.text === '0' ? '1' : '0')
    } else if (ts.isConditionalExpression(node)) {
      add(node.condition, `!(${node.condition.getText(source)})`)
    } else if (ts.isIfStatement(node)) {
      add(node.expression, `!(${node.expression.getText(source)})`)
    }
    ts.forEachChild(node, visit)
  }
  visit(source)
  return found
}

/** The same numbers for the same seed: a small linear congruential generator (constants of Numerical Recipes). */
function draw(all: Mutant[], count: number, seed: number): Mutant[] {
  let state = seed
  const left = [...all]
  const drawn: Mutant[] = []
  while (drawn.length < count && left.length > 0) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    drawn.push(...left.splice(Math.floor((state / 2 ** 32) * left.length), 1))
  }
  return drawn
}

const files = readdirSync('src/core', { recursive: true, encoding: 'utf8' })
  .map((name) => join('src/core', name))
  .filter((name) => name.endsWith('.ts') && name.startsWith(values.only))
  .sort()
const all = files.flatMap(mutantsOf)
const tried = draw(all, Number(values.sample), Number(values.seed))

const copy = mkdtempSync(join(tmpdir(), 'steppe-mutate-'))
for (const name of ['src', 'tests', 'docs', 'scripts', 'package.json', 'tsconfig.json', 'jest.config.mjs'])
  cpSync(name, join(copy, name), { recursive: true, force: true, errorOnExist: false })
symlinkSync(join(process.cwd(), 'node_modules'), join(copy, 'node_modules'))

/** Whether any test of the core notices what the copy holds; tests that never end have noticed, too. */
function isNoticed(): boolean {
  const { status } = spawnSync(
    process.execPath,
    [
      join(process.cwd(), 'node_modules/jest/bin/jest.js'),
      '--selectProjects=unit',
      '--bail',
      '--silent',
      '--testPathPatterns=tests/core|tests/features/(rulings|trace|terms-text)',
    ],
    {
      cwd: copy,
      env: { ...process.env, STEPPE_RUNS: process.env['STEPPE_RUNS'] ?? '15' },
      stdio: 'ignore',
      timeout: 120_000,
    },
  )
  return status !== 0
}

if (isNoticed()) throw new Error('The tests fail before anything is changed.')
const survivors: Mutant[] = []
for (const [at, mutant] of tried.entries()) {
  const text = readFileSync(mutant.file, 'utf8')
  writeFileSync(
    join(copy, mutant.file),
    text.slice(0, mutant.start) + mutant.becomes + text.slice(mutant.end),
  )
  const noticed = isNoticed()
  writeFileSync(join(copy, mutant.file), text)
  if (!noticed) {
    survivors.push(mutant)
    console.log(`survived  ${mutant.file}:${mutant.line}  ${mutant.was}  →  ${mutant.becomes}`)
  }
  if ((at + 1) % 10 === 0) console.log(`${at + 1} of ${tried.length} tried, ${survivors.length} survived`)
}
rmSync(copy, { recursive: true, force: true })
console.log(
  `${tried.length} of ${all.length} possible changes tried, ` +
    `${(((tried.length - survivors.length) / tried.length) * 100).toFixed(0)} % noticed`,
)
