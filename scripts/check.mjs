// `npm run check`: everything quick enough to run before each commit.
import { install, program, run } from './shared.mjs'

const STEPS = [
  ['format', program('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['lint', program('eslint'), ['--max-warnings', '0', '.']],
  ['route types', program('next'), ['typegen']],
  ['types', program('tsc'), ['--noEmit']],
  [
    'boundaries',
    program('depcruise'),
    ['--config', '.dependency-cruiser.cjs', '--output-type', 'err', 'src'],
  ],
  ['dead code', program('knip'), []],
  ['unit and property tests', program('jest'), ['--selectProjects', 'unit']],
]

await install()
for (const [name, command, args] of STEPS) {
  console.log(`— ${name}`)
  try {
    await run(command, args)
  } catch (error) {
    console.error(`${name}: ${error.message}`)
    process.exit(1)
  }
}
