import { rmSync } from 'node:fs'

export default function tearDown(): void {
  if (globalThis.steppeFreshData) rmSync(globalThis.steppeFreshData, { recursive: true, force: true })
}
