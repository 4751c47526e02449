// A PostgreSQL server of its own for tests and benchmarks: in a temporary directory, on the loopback address, gone when it stops.
import { execFileSync, spawn } from 'node:child_process'
import { chownSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { delimiter, join } from 'node:path'
import { run } from './shared.mjs'

const DEBIAN = '/usr/lib/postgresql'

/** The folder of the server's programs; `null` where there is none. */
function findPostgres() {
  const versions = existsSync(DEBIAN) ? readdirSync(DEBIAN).sort((a, b) => Number(b) - Number(a)) : []
  const folders = [
    ...versions.map((version) => join(DEBIAN, version, 'bin')),
    ...(process.env.PATH ?? '').split(delimiter),
  ]
  return (
    folders.find((folder) => existsSync(join(folder, 'initdb')) && existsSync(join(folder, 'postgres'))) ??
    null
  )
}

/** The server comes from Debian, where that is possible. Errors  rejects where it is not there and cannot be installed. */
export async function ensurePostgres() {
  if (findPostgres()) return
  const say = 'These tests need Debian’s PostgreSQL. Install it with: apt-get install postgresql'
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) throw new Error(say)
  console.log('Installing PostgreSQL from Debian’s packages…')
  const environment = { DEBIAN_FRONTEND: 'noninteractive' }
  await run('apt-get', ['update', '-qq'], { environment, quiet: true })
  await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'postgresql'], {
    environment,
    quiet: true,
  })
  if (!findPostgres()) throw new Error(say)
}

/** The server refuses to run as root: then it runs as somebody who owns nothing else. */
function otherUser() {
  if (process.getuid?.() !== 0) return {}
  const users = readFileSync('/etc/passwd', 'utf8')
    .split('\n')
    .map((line) => line.split(':'))
  const found = ['postgres', 'nobody'].map((name) => users.find(([each]) => each === name)).find(Boolean)
  return found ? { uid: Number(found[2]), gid: Number(found[3]) } : {}
}

/** A port of this machine nobody listens at. */
export function freePort() {
  return new Promise((resolve, reject) => {
    const server = createServer()
    server.once('error', reject)
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address()
      server.close(() => resolve(port))
    })
  })
}

/** Starts a server. Resolves to where it answers, and how it is stopped, begun again and taken away. */
export async function startPostgres() {
  const programs = findPostgres()
  if (!programs)
    throw new Error('There is no PostgreSQL server here. Install it with: apt-get install postgresql')
  const directory = mkdtempSync(join(tmpdir(), 'steppe-postgres-'))
  const user = otherUser()
  if (user.uid !== undefined) chownSync(directory, user.uid, user.gid)
  const data = join(directory, 'data')
  const options = { ...user, cwd: directory, stdio: ['ignore', 'ignore', 'pipe'] }
  execFileSync(
    join(programs, 'initdb'),
    ['-D', data, '-U', 'steppe', '--auth=trust', '-E', 'UTF8', '--locale=C', '--no-sync'],
    options,
  )
  const port = await freePort()
  let server = null
  const start = async () => {
    const args = ['-D', data, '-p', String(port), '-c', 'listen_addresses=127.0.0.1', '-k', directory]
    server = spawn(join(programs, 'postgres'), [...args, '-c', 'max_connections=200'], options)
    let said = ''
    await new Promise((resolve, reject) => {
      server.stderr.on('data', (chunk) => {
        said += chunk
        if (said.includes('ready to accept connections')) resolve()
      })
      server.once('exit', () => reject(new Error(said)))
    })
    server.stderr.resume()
  }
  const stop = async () => {
    if (!server || server.exitCode !== null) return
    const ended = new Promise((resolve) => server.once('exit', resolve))
    // At once: whoever is still connected is cut off.
    server.kill('SIGINT')
    await ended
  }
  await start()
  return {
    url: `postgres://steppe@127.0.0.1:${port}/postgres`,
    start,
    stop,
    remove: async () => {
      await stop()
      rmSync(directory, { recursive: true, force: true })
    },
  }
}
