// What the start and test scripts share. Plain Node, nothing installed yet.
import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { totalmem } from 'node:os'
import { fileURLToPath } from 'node:url'

export const root = dirname(dirname(fileURLToPath(import.meta.url)))

const ENVIRONMENT = { NEXT_TELEMETRY_DISABLED: '1' }

/**
 * Runs a command to its end, showing what it prints: at the end of it, where it is `held` so that another may print meanwhile.
 * Signals sent to this script reach it.
 */
export function run(command, args, { environment = {}, quiet = false, held = false } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: held
        ? ['ignore', 'pipe', 'pipe']
        : quiet
          ? ['ignore', 'ignore', 'inherit']
          : ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...ENVIRONMENT, ...environment },
    })
    const printed = []
    child.stdout?.on('data', (part) => printed.push(part))
    child.stderr?.on('data', (part) => printed.push(part))
    const forward = (signal) => child.kill(signal)
    process.on('SIGINT', forward)
    process.on('SIGTERM', forward)
    child.on('error', reject)
    child.on('close', (code, signal) => {
      for (const part of printed) process.stdout.write(part)
      process.off('SIGINT', forward)
      process.off('SIGTERM', forward)
      if (code === 0) resolve()
      else reject(new Error(`${command} ${args.join(' ')} ended with ${signal ?? `code ${code}`}`))
    })
  })
}

/** A program that a package brings. */
export function program(name) {
  return join(root, 'node_modules/.bin', name)
}

/** Installs the packages of the lock file, unless they are there already. */
export async function install() {
  const key = hashOf(['package.json', 'package-lock.json'])
  if (existsSync(join(root, 'node_modules')) && stamp('install') === key) return
  console.log('Installing packages…')
  await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'])
  setStamp('install', key)
}

/** Builds the application, unless nothing it is made of has changed. */
export async function build() {
  const key = hashOf([
    'package-lock.json',
    'next.config.ts',
    'postcss.config.mjs',
    'tsconfig.json',
    'src',
    'public',
  ])
  if (existsSync(join(root, '.next/BUILD_ID')) && stamp('build') === key) return
  console.log('Building…')
  await run(program('next'), ['build'], { quiet: true })
  setStamp('build', key)
}

/** The environment and arguments that serve a data directory on a port, on this machine only. */
export function serving({ data, port, demo, reset = false, signIn = false, processes = 1 }) {
  const server = [program('next'), 'start', '-H', '127.0.0.1', '-p', String(port)]
  const [command, ...args] =
    processes === 1 ? server : [process.execPath, 'scripts/processes.mjs', String(processes), ...server]
  return {
    command,
    args,
    environment: {
      ...ENVIRONMENT,
      NEXT_MANUAL_SIG_HANDLE: '1',
      // A large store is a large heap: most of the machine's memory may be it, and with more room for what is young,
      // less of it is looked through again and again.
      NODE_OPTIONS:
        `${process.env.NODE_OPTIONS ?? ''} --max-old-space-size=${heapMegabytes(processes)} --max-semi-space-size=64`.trim(),
      STEPPE_DATA: data,
      STEPPE_ADDRESS: process.env.STEPPE_ADDRESS || `http://127.0.0.1:${port}`,
      ...(demo ? { STEPPE_DEMO: 'with-orders' } : {}),
      ...(signIn ? { STEPPE_SIGN_IN: 'on' } : {}),
      ...(reset ? { STEPPE_RESET: '1' } : {}),
    },
  }
}

function heapMegabytes(processes) {
  return Math.floor(((totalmem() / 2 ** 20) * 0.6) / processes)
}

/**
 * Resolves when the server answers with a page; rejects when `hasEnded` says that it never will, or when it has said nothing for so many
 * seconds. One that says that it is starting may take as long as its store is large.
 */
export async function untilAnswering(port, hasEnded, seconds = 60) {
  for (let heard = Date.now(); Date.now() - heard < seconds * 1_000;) {
    if (hasEnded()) throw new Error('the server ended before it answered')
    try {
      const { ok, status } = await fetch(`http://127.0.0.1:${port}/board`)
      if (ok) return
      if (status === 503) heard = Date.now()
    } catch {
      // Not listening yet.
    }
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error(`the server did not answer within ${seconds} seconds`)
}

function hashOf(paths) {
  const hash = createHash('sha1')
  const add = (path) => {
    const full = join(root, path)
    if (!existsSync(full)) return
    if (statSync(full).isDirectory()) {
      for (const name of readdirSync(full).sort()) add(join(path, name))
      return
    }
    hash.update(path).update('\0').update(readFileSync(full)).update('\0')
  }
  paths.forEach(add)
  return hash.digest('hex')
}

function stampFile(name) {
  return join(root, '.steppe/stamps', name)
}

function stamp(name) {
  const file = stampFile(name)
  return existsSync(file) ? readFileSync(file, 'utf8') : null
}

function setStamp(name, key) {
  const file = stampFile(name)
  mkdirSync(dirname(file), { recursive: true })
  writeFileSync(file, key)
}
