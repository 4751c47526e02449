// `npm run backup -- FILE` and `npm run restore -- FILE`: docs/running.md.
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { makeBackup, restoreBackup, type Restored } from '../src/server/backup/backup'
import { CannotOpenError } from '../src/server/database/cannot-open'

const USAGE = `Usage
  npm run backup -- FILE    write everything of a store into one file
  npm run restore -- FILE   make a store of such a file, where there is none yet

  --data DIR   where the store lies (.steppe/data)`

/** Something the person at the keyboard can put right. */
class Refused extends Error {}

async function main([command, ...given]: readonly string[]): Promise<void> {
  const { file, data } = readArguments(given)
  if (command === 'backup') {
    if (!existsSync(join(data, 'database'))) throw new Refused(`There is no store in ${data}.`)
    const { archive, manifest } = await makeBackup(data, new Date())
    // Moved into place when it is whole: half a backup never bears its name.
    writeFileSync(`${file}.part`, archive)
    renameSync(`${file}.part`, file)
    const rows = Object.values(manifest.rows).reduce((sum, each) => sum + each, 0)
    console.log(`${file}: ${(archive.length / 1e6).toFixed(1)} MB, ${rows} rows, ${told(manifest.files)}.`)
    return
  }
  if (!existsSync(file)) throw new Refused(`There is no file ${file}.`)
  const restored = await restoreBackup(readFileSync(file), data)
  if (!restored.ok) throw new Refused(whyNot(restored, file, data))
  console.log(
    `The store of ${restored.manifest.madeAt} is in ${data}, and every row of it was counted again.`,
  )
}

function readArguments(given: readonly string[]): { readonly file: string; readonly data: string } {
  try {
    const { values, positionals } = parseArgs({
      args: [...given],
      allowPositionals: true,
      options: { data: { type: 'string', default: '.steppe/data' } },
    })
    const [file] = positionals
    if (!file || positionals.length > 1) throw new Refused(USAGE)
    return { file: resolve(file), data: resolve(values.data) }
  } catch (error) {
    throw error instanceof Refused ? error : new Refused(`${(error as Error).message}\n\n${USAGE}`)
  }
}

function told(files: Readonly<Record<string, string>>): string {
  const beside = Object.keys(files).length - 1
  return beside === 1 ? '1 picture or mail' : `${beside} pictures and mails`
}

function whyNot(refused: Extract<Restored, { readonly ok: false }>, file: string, data: string): string {
  switch (refused.code) {
    case 'not-empty':
      return `There is a store in ${data} already. Name another directory with --data, or move that one away first.`
    case 'not-a-backup':
      return `${file} is no backup of Steppe, or its beginning or end is missing.`
    case 'damaged':
      return `${file} is damaged: ${refused.file} is not what was backed up. Nothing was restored.`
    case 'rows-differ':
      return `${file} could not be read back whole: table ${refused.table} has other rows. Nothing was restored.`
  }
}

main(process.argv.slice(2)).catch((error: unknown) => {
  if (!(error instanceof Refused || error instanceof CannotOpenError)) throw error
  console.error(error.message)
  process.exit(1)
})
