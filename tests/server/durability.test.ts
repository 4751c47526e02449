import { DirectoryInUseError } from '@/server/database/directory-lock'
import { openSteppe } from '@/server/engine/steppe'
import type { ChildProcess } from 'node:child_process'
import { createInterface } from 'node:readline'
import { testInDirectory } from './in-directory'
import { program } from './program'
import { freshDirectory } from './temporary-directory'
import { fillForCommits } from './two-products'

const directory = freshDirectory()
const committer = program('committer')
afterAll(() => directory.remove())

const KILLS = 20

function startCommitter(from: number): ChildProcess {
  return committer.start([directory.path, String(from)], ['ignore', 'pipe', 'inherit'])
}

/** Lets a committer say some numbers, kills it in the middle of its work, and gives the last number it said. */
async function killAfter(commits: number, from: number): Promise<number> {
  const child = startCommitter(from)
  const ended = new Promise((resolve) => child.once('exit', resolve))
  let last = from - 1
  for await (const line of createInterface({ input: child.stdout as NodeJS.ReadableStream })) {
    last = Number(line)
    if (last - from >= commits) child.kill('SIGKILL')
  }
  await ended
  return last
}

test('twenty kills in the middle of commits lose nothing acknowledged and tear nothing', async () => {
  await fillForCommits(directory.path)
  let next = 2
  for (let kill = 0; kill < KILLS; kill += 1) {
    const acknowledged = await killAfter(kill % 7, next)
    const steppe = await openSteppe(directory.path)
    const price = (id: string) => Number(steppe.prepared?.store.product.get(id)?.basePrice)
    const stored = price('product-a')
    expect(stored).toBe(price('product-b'))
    expect(stored).toBeGreaterThanOrEqual(acknowledged)
    // At most the one commit that was on its way when the kill came may be there beyond what was said.
    expect(stored).toBeLessThanOrEqual(acknowledged + 1)
    const last = await steppe.database.query.changeSets.findFirst({
      orderBy: (changeSet, { desc }) => desc(changeSet.id),
    })
    expect(Number(last?.note)).toBe(stored)
    await steppe.close()
    next = stored + 1
  }
}, 240_000)

testInDirectory(
  'a second process is told plainly that the directory is in use',
  async () => {
    const steppe = await openSteppe(directory.path)
    const child = committer.start([directory.path, '1'], ['ignore', 'ignore', 'pipe'])
    let said = ''
    child.stderr?.on('data', (chunk: Buffer) => (said += String(chunk)))
    const code = await new Promise((resolve) => child.once('exit', resolve))
    expect(code).not.toBe(0)
    expect(said).toContain('is in use by another Steppe')
    expect(said).toContain(`process ${process.pid}`)
    await expect(openSteppe(directory.path, { reset: true })).rejects.toBeInstanceOf(DirectoryInUseError)
    await steppe.close()
  },
  60_000,
)
