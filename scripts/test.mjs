// `npm test`: installs what the tests need, then runs every one of them.
import { existsSync } from 'node:fs'
import { ensurePostgres } from './postgres.mjs'
import { build, install, program, run } from './shared.mjs'

const CHROMIUM = '/usr/bin/chromium'

/** The browser comes from Debian, where that is possible; it is never downloaded from anywhere else. */
async function ensureChromium() {
  if (existsSync(CHROMIUM)) return
  const say = 'The browser tests need Debian’s Chromium. Install it with: apt-get install chromium'
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) throw new Error(say)
  console.log('Installing Chromium from Debian’s packages…')
  const environment = { DEBIAN_FRONTEND: 'noninteractive' }
  await run('apt-get', ['update', '-qq'], { environment, quiet: true })
  await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], {
    environment,
    quiet: true,
  })
  if (!existsSync(CHROMIUM)) throw new Error(say)
}

try {
  await install()
  await ensureChromium()
  const hasServer = await ensurePostgres().then(
    () => true,
    (error) => {
      console.log(`${error.message} The tests on a server are left out.`)
      return false
    },
  )
  console.log('— build')
  await build()
  // The database has but one thread: what it leaves of the machine checks the rest, and tells of it at its end.
  console.log(
    '— database tests, and beside them format, lint, types, boundaries, dead code, unit tests, and the database tests on a PostgreSQL server',
  )
  const onServer = (half) =>
    hasServer &&
    run(process.execPath, ['scripts/test-postgres.mjs', '--database-only', `--shard=${half}/2`], {
      held: true,
    })
  // Whichever has ended takes a half of the tests on a server.
  const both = await Promise.allSettled([
    run(process.execPath, [
      '--experimental-vm-modules',
      '--no-warnings',
      program('jest'),
      '--selectProjects',
      'server',
      '--runInBand',
      '--forceExit',
    ]).then(() => onServer(1)),
    run(process.execPath, ['scripts/check.mjs'], { held: true }).then(() => onServer(2)),
  ])
  for (const each of both) if (each.status === 'rejected') throw each.reason
  console.log('— browser tests')
  // Were a browser left open by what failed, the run would wait for it without end.
  await run(program('jest'), ['--selectProjects', 'browser', '--runInBand', '--forceExit'])
  console.log('All tests passed.')
} catch (error) {
  console.error(error.message)
  process.exit(1)
}
