// `npm run -s steppe -- ask STORE.json QUESTIONS.json`, `… prove STORE.json`, `… export FILE`, `… import FILE`: docs/formats.md.
import { readFileSync, writeFileSync } from 'node:fs'
import { prepare } from '../src/core/engine/prepare'
import { CannotOpenError } from '../src/server/database/cannot-open'
import { openSteppe } from '../src/server/engine/steppe'
import { getView } from '../src/server/views/views'
import { type StockLevels, UNCOUNTED } from '../src/core/catalogue/stock'
import { type Decimal, ZERO } from '../src/core/decimal/decimal'
import { readStock } from '../src/server/stock/stock-levels'
import { buyerName } from '../src/core/buyers/buyer-code'
import { isInTheWay, proveAll } from '../src/core/proving/prove'
import { atOnce } from '../src/core/steps/steps'
import { priceDigitsOf } from '../src/core/store/store'
import { foundText, proofSentence } from '../src/ui/format/proof-phrases'
import { documentFaults } from '../src/features/imports/document-faults'
import { answerQuestions } from '../src/server/exchange/price-questions'
import { importDocument } from '../src/server/exchange/import-document'
import { type DocumentError, readDocument, toDocument } from '../src/server/exchange/store-document'

const USAGE = `Usage
  npm run -s steppe -- ask STORE.json QUESTIONS.json   answer price questions, without server or database
  npm run -s steppe -- prove STORE.json                ask its proofs; exits with 1 when one that blocks is broken
  npm run -s steppe -- export FILE                     write the whole store as one document
  npm run -s steppe -- import FILE                     make the store what a document says

  --data DIR   where the store lies (.steppe/data)
  --url URL    go through a running Steppe instead, such as http://127.0.0.1:4000; STEPPE_KEY holds a key for it
  --in DRAFT   export the store as a draft would leave it, such as draft:spring
  --stock      export what is on hand as well; an import counts what it finds
  --json       tell verdicts as JSON

A FILE of - is standard input or output.`

/** Something the person at the keyboard can put right. */
class Refused extends Error {}

async function main(): Promise<void> {
  const { words, data, url, draft, isJson, withStock } = readArguments(process.argv.slice(2))
  const [command, first, second] = words
  if (command === 'ask' && first && second && words.length === 3) return askQuestions(first, second)
  if (command === 'prove' && first && words.length === 2) return proveStore(first, isJson)
  if (command === 'export' && first && words.length === 2)
    return exportStore(first, { data, url, draft, withStock })
  if (command === 'import' && first && words.length === 2) return importStore(first, data, url)
  throw new Refused(USAGE)
}

function askQuestions(storeFile: string, questionsFile: string): void {
  const read = readDocument(readJson(storeFile))
  if (!read.ok) throw new Refused(errorText(storeFile, read.errors))
  const answers = answerQuestions(
    prepare(read.store),
    readJson(questionsFile),
    Date.now(),
    counted(read.stock),
  )
  if (!answers) throw new Refused(`${questionsFile}: the questions must be an array.`)
  write('-', answers)
}

/** Levels as a document counts them: nothing is promised yet. */
function counted(stock: ReadonlyMap<string, Decimal | null>): StockLevels {
  return new Map(
    [...stock].flatMap(([variant, onHand]) =>
      onHand === null ? [] : [[variant, { onHand, reserved: ZERO }]],
    ),
  )
}

/** Asks every proof of a document as of now, and tells where one does not hold. */
function proveStore(storeFile: string, isJson: boolean): void {
  const read = readDocument(readJson(storeFile))
  if (!read.ok) throw new Refused(errorText(storeFile, read.errors))
  const { store } = read
  const digits = (currency: string) => priceDigitsOf(store, currency)
  const verdicts = atOnce(proveAll(prepare(store), Date.now()))
  const told = verdicts.map((verdict) => ({
    proof: verdict.proof.code,
    says: proofSentence(verdict.proof, store),
    state: verdict.state,
    isBlocking: verdict.proof.isBlocking,
    checked: verdict.checked,
    held: verdict.held,
    broken: verdict.broken.map(({ buyer, variant, found }) => ({
      buyer: buyer.kind === 'guest' ? 'guest' : buyerName(store.group, store.account, buyer),
      sku: variant === null ? null : (store.variant.get(variant)?.sku ?? variant),
      found: foundText(found, digits),
    })),
  }))
  if (isJson) write('-', told)
  else
    for (const { says, state, checked, held, broken } of told) {
      console.log(
        `${state === 'holds' ? 'holds ' : state === 'idle' ? 'idle  ' : 'BROKEN'}  ${says} (${held} of ${checked})`,
      )
      for (const { buyer, sku, found } of broken)
        console.log(`          ${[buyer, sku, found].filter(Boolean).join(' · ')}`)
    }
  if (verdicts.some(isInTheWay)) process.exitCode = 1
}

interface Export {
  readonly data: string
  readonly url: string | null
  readonly draft: string | null
  readonly withStock: boolean
}

async function exportStore(file: string, { data, url, draft, withStock }: Export): Promise<void> {
  if (url !== null && draft !== null) throw new Refused('--in works on a data directory, not on an address.')
  if (url !== null)
    return write(file, await readAnswer(await reach(`${url}/api/store${withStock ? '?stock=true' : ''}`)))
  const steppe = await openSteppe(data)
  try {
    if (!steppe.prepared) throw new Refused(`There is no store in ${data} yet.`)
    const view = await getView(steppe, draft === null ? { kind: 'live' } : { kind: 'draft', code: draft })
    if (view.missing !== null) throw new Refused(`There is no open draft “${view.missing}” in ${data}.`)
    const stock = withStock ? await readStock(steppe.database) : UNCOUNTED
    write(file, toDocument(view.prepared.store, stock))
  } finally {
    await steppe.close()
  }
}

async function importStore(file: string, data: string, url: string | null): Promise<void> {
  const document = readJson(file)
  if (url !== null) {
    const response = await reach(`${url}/api/store`, {
      method: 'PUT',
      body: JSON.stringify(document),
      // Whoever imports a file means it, whatever is there.
      headers: { 'content-type': 'application/json', 'if-match': '*' },
    })
    const { changed, errors } = (await readAnswer(response)) as { changed?: number; errors?: DocumentError[] }
    if (errors) throw new Refused(errorText(file, errors))
    return void console.error(`${changed} records changed.`)
  }
  const steppe = await openSteppe(data)
  try {
    const outcome = await importDocument(steppe, document, { author: 'Command line', at: new Date() })
    if (!outcome.ok) throw new Refused(errorText(file, outcome.errors))
    console.error(`${outcome.changed} records changed.`)
  } finally {
    await steppe.close()
  }
}

function readArguments(given: readonly string[]) {
  const words: string[] = []
  let data = process.env['STEPPE_DATA'] ?? '.steppe/data'
  let url: string | null = null
  let draft: string | null = null
  let isJson = false
  let withStock = false
  for (let at = 0; at < given.length; at += 1) {
    const word = given[at] as string
    if (word === '--json') isJson = true
    else if (word === '--stock') withStock = true
    else if (word === '--data' || word === '--url' || word === '--in') {
      const value = given[(at += 1)]
      if (value === undefined) throw new Refused(`${word} needs a value.\n\n${USAGE}`)
      if (word === '--data') data = value
      else if (word === '--in') draft = value.replace(/^draft:/, '')
      else url = value.replace(/\/$/, '')
    } else if (word.startsWith('--')) throw new Refused(`There is no option ${word}.\n\n${USAGE}`)
    else words.push(word)
  }
  return { words, data, url, draft, isJson, withStock }
}

function readJson(file: string): unknown {
  let text: string
  try {
    text = readFileSync(file === '-' ? 0 : file, 'utf8')
  } catch {
    throw new Refused(`${file} cannot be read.`)
  }
  try {
    return JSON.parse(text)
  } catch (error) {
    throw new Refused(`${file} is not JSON: ${(error as Error).message}.`)
  }
}

function write(file: string, value: unknown): void {
  const text = `${JSON.stringify(value, null, 2)}\n`
  if (file === '-') process.stdout.write(text)
  else writeFileSync(file, text)
}

async function reach(address: string, request: RequestInit = {}): Promise<Response> {
  const key = process.env['STEPPE_KEY']
  const headers = new Headers(request.headers)
  if (key) headers.set('authorization', `Bearer ${key}`)
  const response = await fetch(address, { ...request, headers }).catch(() => {
    throw new Refused(`Nothing answers at ${address}.`)
  })
  if (response.status === 401) throw new Refused('It asks for a key: set STEPPE_KEY to one made at Programs.')
  if (response.status === 403) throw new Refused('The key in STEPPE_KEY is not for this.')
  return response
}

async function readAnswer(response: Response): Promise<unknown> {
  try {
    return await response.json()
  } catch {
    throw new Refused(`What answers at ${response.url} is no Steppe.`)
  }
}

const SHOWN_ERRORS = 20

function errorText(file: string, errors: readonly DocumentError[]): string {
  const lines = documentFaults(errors.slice(0, SHOWN_ERRORS)).map(({ message }) => `  ${message}`)
  const more = errors.length > SHOWN_ERRORS ? `\n  … and ${errors.length - SHOWN_ERRORS} more` : ''
  return `${file} was not taken:\n${lines.join('\n')}${more}`
}

main().catch((error: unknown) => {
  const isExpected = error instanceof Refused || error instanceof CannotOpenError
  console.error(isExpected ? (error as Error).message : error)
  process.exitCode = 1
})
