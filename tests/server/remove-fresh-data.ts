import { databaseOf, isOnServer, removeDirectory } from './temporary-directory'

export default function tearDown(): void {
  const fresh = globalThis.steppeFreshData
  if (fresh) removeDirectory(fresh, isOnServer ? databaseOf(fresh) : null)
}
