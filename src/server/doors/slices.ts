import 'server-only'

/** How long one piece of work may hold up everybody else, in milliseconds. */
const LONGEST_SLICE = 20

/** Long work in slices, between which others are served. */
export class Slices {
  private began = performance.now()

  /** Called between two steps; lets others go first when this has taken long enough. */
  async rest(): Promise<void> {
    if (performance.now() - this.began < LONGEST_SLICE) return
    await new Promise<void>((resolve) => setImmediate(resolve))
    this.began = performance.now()
  }
}
