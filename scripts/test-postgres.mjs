// `npm run test:postgres`: the tests of the database on a PostgreSQL server that is started for them, and journeys in the browser
// through several processes on it. With --database-only the journeys are left out, with --shard=1/2 half of the others.
import { program, run } from './shared.mjs'
import { ensurePostgres, startPostgres } from './postgres.mjs'

/** Journeys that change a lot, from several windows. */
const JOURNEYS = 'browser/(orders|import|drafts|shop)'
const PROCESSES = '2'

const jest = (...args) =>
  run(process.execPath, [
    '--experimental-vm-modules',
    '--no-warnings',
    program('jest'),
    '--forceExit',
    ...args,
  ])

try {
  await ensurePostgres()
  const server = await startPostgres()
  try {
    process.env.STEPPE_TEST_SERVER = server.url
    // What they ask of a server's answers has nothing to do with where its database is.
    const shard = process.argv.filter((each) => each.startsWith('--shard='))
    await jest('--selectProjects', 'server', '--runInBand', ...shard, '--testPathIgnorePatterns', 'wrong-')
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
