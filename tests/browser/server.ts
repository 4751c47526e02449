import { type ChildProcess, spawn } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, mkdtempSync, renameSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { makeDatabase } from '../server/temporary-directory'

/** When the servers of tests believe to start: a day on which nothing in the demo starts or ends. */
export const TEST_CLOCK = '2026-11-25T10:00:00Z'

/** What a data directory holds to begin with: nothing, the demo store, or the demo store with orders. */
type Filled = boolean | 'with-orders'

/** A running Steppe for tests. */
export interface TestServer {
  readonly url: string
  /** What it printed of what went wrong, or has to be known. */
  readonly printed: () => string
  /** Bytes of its heap that are in use when all garbage is cleared away. Needs `tellsHeap`. */
  readonly heap: () => Promise<number>
  readonly stop: () => Promise<void>
}

const running = new Set<ChildProcess>()
// What a test that failed left running would keep all of them from ending. The server of all tests is started beside them.
if (typeof afterAll === 'function')
  afterAll(() => {
    for (const child of running) child.kill('SIGKILL')
  })

interface ServerOptions {
  /** Whether people are asked who they are. */
  readonly signIn?: boolean
  readonly port?: number
  /** Whether it can be asked how much memory it holds. */
  readonly tellsHeap?: boolean
}

/** Serves the built application with the demo store, on a free port of this machine. */
export async function startServer(
  data: string,
  isDemo: Filled = true,
  { signIn = false, port: wanted, tellsHeap = false }: ServerOptions = {},
): Promise<TestServer> {
  const port = wanted ?? (await freePort())
  const next = join(process.cwd(), 'node_modules/.bin/next')
  const server = [next, 'start', '-H', '127.0.0.1', '-p', String(port)]
  const processes = process.env['STEPPE_TEST_PROCESSES']
  const child = spawn(
    process.execPath,
    processes ? ['scripts/processes.mjs', processes, ...server] : server,
    {
      env: {
        ...process.env,
        NODE_ENV: 'production',
        NEXT_TELEMETRY_DISABLED: '1',
        NEXT_MANUAL_SIG_HANDLE: '1',
        ...(isDemo !== false && { STEPPE_DEMO: isDemo === true ? '1' : isDemo }),
        STEPPE_SIGN_IN: signIn ? 'on' : 'off',
        STEPPE_CLOCK: TEST_CLOCK,
        STEPPE_DATA: data,
        ...(tellsHeap && { NODE_OPTIONS: `--import ${join(process.cwd(), 'tests/server/tell-heap.mjs')}` }),
      },
      stdio: ['ignore', 'ignore', 'pipe'],
    },
  )
  running.add(child)
  child.once('exit', () => running.delete(child))
  let printed = ''
  child.stderr?.on('data', (part) => {
    printed += String(part)
    if (!signIn) process.stderr.write(part)
  })
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()))
  const url = `http://127.0.0.1:${port}`
  await untilAnswering(url, child)
  return {
    url,
    printed: () => printed,
    heap: () =>
      new Promise((resolve) => {
        child.stderr?.on('data', function told(part) {
          const heap = /heap in use: (\d+)/.exec(String(part))?.[1]
          if (heap === undefined) return
          child.stderr?.off('data', told)
          resolve(Number(heap))
        })
        child.kill('SIGUSR2')
      }),
    stop: async () => {
      child.kill('SIGTERM')
      await ended
    },
  }
}

/** Serves a data directory of its own while something is done with it, and leaves nothing behind. */
export async function withServer(
  act: (server: TestServer) => Promise<void>,
  fill: (data: string) => Promise<void> = () => Promise.resolve(),
  isDemo: Filled = true,
  options: ServerOptions = {},
): Promise<void> {
  const data = await filledDirectory(isDemo)
  await fill(data)
  const server = await startServer(data, isDemo, options)
  try {
    await act(server)
  } finally {
    await server.stop()
    rmSync(data, { recursive: true, force: true })
  }
}

/**
 * A directory filled as asked: filled once by a server, and copied from then on, since filling takes seconds. Where nothing is
 * kept for copying, whatever server opens it first fills it.
 */
export async function filledDirectory(isDemo: Filled = true): Promise<string> {
  const kept = await keepFilled(isDemo)
  if (kept === null) {
    const data = mkdtempSync(join(tmpdir(), 'steppe-'))
    makeDatabase(data, null)
    return data
  }
  const data = mkdtempSync(join(tmpdir(), 'steppe-'))
  cpSync(kept, data, { recursive: true })
  makeDatabase(data, kept)
  return data
}

/** The directory that is copied, filled if it is not yet; `null` where nothing is kept. */
export async function keepFilled(isDemo: Filled): Promise<string | null> {
  const folder = process.env['STEPPE_TEST_KEPT']
  if (!folder) return null
  const kept = join(folder, String(isDemo))
  if (existsSync(kept)) return kept
  const making = `${kept}-in-the-making`
  mkdirSync(making)
  makeDatabase(making, null)
  await (await startServer(making, isDemo)).stop()
  renameSync(making, kept)
  return kept
}

/** Milliseconds a large store may take to be read. */
const PATIENCE = 180_000

async function untilAnswering(url: string, child: ChildProcess): Promise<void> {
  for (const until = Date.now() + PATIENCE; Date.now() < until;) {
    if (child.exitCode !== null) throw new Error(`the server ended with code ${child.exitCode}`)
    const answers = await fetch(`${url}/board`).then(
      (response) => response.ok,
      () => false,
    )
    if (answers) return
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error(`the server did not answer within ${PATIENCE} ms`)
}

function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer()
    probe.once('error', reject)
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address()
      const port = typeof address === 'object' && address ? address.port : 0
      probe.close(() => resolve(port))
    })
  })
}
