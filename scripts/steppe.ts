// `npm run -s steppe -- ask STORE.json QUESTIONS.json`, `… export FILE`, `… import FILE`: docs/formats.md.
import { readFileSync, writeFileSync } from 'node:fs'
import { prepare } from '../src/core/engine/prepare'
import { DirectoryInUseError } from '../src/server/database/directory-lock'
import { openSteppe } from '../src/server/engine/steppe'
import { liveView } from '../src/server/views/view'
import { documentFaults } from '../src/features/imports/document-faults'
import { answerQuestions } from '../src/server/exchange/price-questions'
import { importDocument } from '../src/server/exchange/import-document'
import { type DocumentError, readDocument, toDocument } from '../src/server/exchange/store-document'

const USAGE = `Usage
  npm run -s steppe -- ask STORE.json QUESTIONS.json   answer price questions, without server or database
  npm run -s steppe -- export FILE                     write the whole store as one document
  npm run -s steppe -- import FILE                     make the store what a document says

  --data DIR   where the store lies (.steppe/data)
  --url URL    go through a running Steppe instead, such as http://127.0.0.1:3000

A FILE of - is standard input or output.`

/** Something the person at the keyboard can put right. */
class Refused extends Error {}

async function main(): Promise<void> {
  const { words, data, url } = readArguments(process.argv.slice(2))
  const [command, first, second] = words
  if (command === 'ask' && first && second && words.length === 3) return askQuestions(first, second)
  if (command === 'export' && first && words.length === 2) return exportStore(first, data, url)
  if (command === 'import' && first && words.length === 2) return importStore(first, data, url)
  throw new Refused(USAGE)
}

function askQuestions(storeFile: string, questionsFile: string): void {
  const read = readDocument(readJson(storeFile))
  if (!read.ok) throw new Refused(errorText(storeFile, read.errors))
  const answers = answerQuestions(prepare(read.store), readJson(questionsFile), Date.now())
  if (!answers) throw new Refused(`${questionsFile}: the questions must be an array.`)
  write('-', answers)
}

async function exportStore(file: string, data: string, url: string | null): Promise<void> {
  if (url !== null) return write(file, await readAnswer(await reach(`${url}/api/store`)))
  const steppe = await openSteppe(data)
  try {
    if (!steppe.prepared) throw new Refused(`There is no store in ${data} yet.`)
    write(file, toDocument(liveView(steppe).prepared.store))
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
  for (let at = 0; at < given.length; at += 1) {
    const word = given[at] as string
    if (word === '--data' || word === '--url') {
      const value = given[(at += 1)]
      if (value === undefined) throw new Refused(`${word} needs a value.\n\n${USAGE}`)
      if (word === '--data') data = value
      else url = value.replace(/\/$/, '')
    } else if (word.startsWith('--')) throw new Refused(`There is no option ${word}.\n\n${USAGE}`)
    else words.push(word)
  }
  return { words, data, url }
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

async function reach(address: string, request?: RequestInit): Promise<Response> {
  try {
    return await fetch(address, request)
  } catch {
    throw new Refused(`Nothing answers at ${address}.`)
  }
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
  const isExpected = error instanceof Refused || error instanceof DirectoryInUseError
  console.error(isExpected ? (error as Error).message : error)
  process.exitCode = 1
})
