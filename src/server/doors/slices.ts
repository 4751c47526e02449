import 'server-only'

import type { Steps } from '@/core/steps/steps'

/** How long one piece of work may hold up everybody else, in milliseconds. */
const LONGEST_SLICE = 20
/** Small steps between two looks at the clock. */
const STEPS_A_LOOK = 256

/**
 * Gives other requests a turn. While a page is being rendered the framework runs its immediates first, so only a timer
 * really does.
 */
export function yieldToOthers(): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, 0))
}

/** Long work in slices, between which others are served. */
export class Slices {
  private began = performance.now()
  private steps = 0

  /** Called between two steps; lets others go first when this has taken long enough. */
  async rest(): Promise<void> {
    if (performance.now() - this.began < LONGEST_SLICE) return
    await yieldToOthers()
    this.began = performance.now()
  }

  /** Does work that knows its steps. */
  async run<Result>(work: Steps<Result>): Promise<Result> {
    for (;;) {
      const step = work.next()
      if (step.done) return step.value
      await this.rest()
    }
  }

  /** What is made of each of many things. */
  async map<Thing, Made>(
    things: readonly Thing[],
    make: (thing: Thing, at: number) => Made,
  ): Promise<readonly Made[]> {
    const made: Made[] = []
    for (const [at, thing] of things.entries()) {
      await this.rest()
      made.push(make(thing, at))
    }
    return made
  }

  /** Whether to rest now, for steps so small that looking at the clock before each would cost more than they do. */
  isDue(): boolean {
    this.steps += 1
    return this.steps % STEPS_A_LOOK === 0 && performance.now() - this.began >= LONGEST_SLICE
  }
}
