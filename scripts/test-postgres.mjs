// `npm run test:postgres`: the tests of the database on a PostgreSQL server that is started for them, and journeys in the browser
// through several processes on it. With --database-only the journeys are left out.
import { existsSync } from 'node:fs'
import { program, run } from './shared.mjs'
import { findPostgres, startPostgres } from './postgres.mjs'

/** Journeys that change a lot, from several windows. */
const JOURNEYS = 'browser/(orders|import|drafts|shop)'
const PROCESSES = '2'

/** The server comes from Debian, where that is possible. */
async function ensurePostgres() {
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

const jest = (...args) =>
  run(process.execPath, ['--experimental-vm-modules', '--no-warnings', program('jest'), ...args])

try {
  await ensurePostgres()
  const server = await startPostgres()
  try {
    process.env.STEPPE_TEST_SERVER = server.url
    // What they ask of a server's answers has nothing to do with where its database is.
    await jest('--selectProjects', 'server', '--runInBand', '--testPathIgnorePatterns', 'wrong-')
    if (!process.argv.includes('--database-only')) {
      process.env.STEPPE_TEST_PROCESSES = PROCESSES
      await jest('--selectProjects', 'browser', '--runInBand', '--testPathPatterns', JOURNEYS)
    }
  } finally {
    await server.remove()
  }
} catch (error) {
  console.error(error.message)
  process.exit(1)
}
