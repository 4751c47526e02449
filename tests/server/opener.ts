import { openSteppe } from '@/server/engine/steppe'

/** Opens the store in a directory, says so, and closes it again. */
async function main(directory: string): Promise<void> {
  const steppe = await openSteppe(directory)
  process.stdout.write('opened\n')
  await steppe.close()
}

main(process.argv[2] as string).catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error)
  process.exit(1)
})
