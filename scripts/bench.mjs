// `npm run bench`: bundles the benchmark as the application is bundled, and runs it alone.
import { build } from 'esbuild'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { run } from './shared.mjs'

// Beside the packages it imports, so that they are found.
const bundle = join(process.cwd(), 'node_modules', '.cache', 'steppe-bench.mjs')

try {
  await build({
    entryPoints: [process.argv[2] ?? 'bench/run.ts'],
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    // As the framework's own bundler finds them on the server: Node asks for the whole name of a file.
    alias: {
      'next/cache': 'next/cache.js',
      'next/headers': 'next/headers.js',
      'next/navigation': 'next/dist/client/components/navigation.react-server.js',
    },
    outfile: bundle,
    logLevel: 'warning',
  })
  // The heap of the server that serves a large store, and room for the store three times.
  await run(process.execPath, [
    '--max-old-space-size=8192',
    '--max-semi-space-size=64',
    '--conditions=react-server',
    bundle,
  ])
} catch (error) {
  console.error(error.message)
  process.exitCode = 1
} finally {
  await rm(bundle, { force: true })
}
