import { type ChildProcess, execFileSync, spawn, type StdioOptions } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { join } from 'node:path'

export interface Program {
  /** Starts it in a process of its own, or as what another command starts. */
  readonly start: (
    parameters: readonly string[],
    stdio: StdioOptions,
    through?: readonly string[],
  ) => ChildProcess
}

/** A program of these tests, compiled once for all its starts: compiling is most of what a start takes. */
export function program(name: string): Program {
  // Inside of the project, so that it finds its packages.
  const cache = join(process.cwd(), 'node_modules/.cache')
  mkdirSync(cache, { recursive: true })
  const folder = mkdtempSync(join(cache, 'steppe-program-'))
  const file = join(folder, `${name}.mjs`)
  execFileSync(join(process.cwd(), 'node_modules/.bin/esbuild'), [
    `tests/server/${name}.ts`,
    '--bundle',
    '--platform=node',
    '--format=esm',
    '--packages=external',
    '--alias:server-only=./tests/fixtures/server-only.ts',
    '--log-level=warning',
    `--outfile=${file}`,
  ])
  afterAll(() => rmSync(folder, { recursive: true, force: true }))
  return {
    start: (parameters, stdio, through = []) => {
      const [command, ...rest] = [...through, process.execPath, file, ...parameters]
      return spawn(command as string, rest, { stdio })
    },
  }
}
