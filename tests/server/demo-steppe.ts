import { seedDemo } from '@/server/changes/seed-demo'
import { openSteppe, type Steppe } from '@/server/engine/steppe'
import { freshDirectory } from './temporary-directory'

/** The demo store on a disk of its own, open while the tests of a file run. */
export function demoSteppe(): { readonly current: Steppe } {
  const directory = freshDirectory()
  let steppe: Steppe
  beforeAll(async () => {
    steppe = await openSteppe(directory.path)
    await seedDemo(steppe)
  }, 60_000)
  afterAll(async () => {
    await steppe.close()
    directory.remove()
  })
  return {
    get current() {
      return steppe
    },
  }
}
