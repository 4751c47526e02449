/** Long work in short steps: between two of them whoever drives it may let others go first. */
export type Steps<Result> = Generator<void, Result, void>

/** How many small things make a step. */
const THINGS_A_STEP = 2_048

/** All steps, one right after the other. */
export function atOnce<Result>(steps: Steps<Result>): Result {
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
  }
}

/** Takes things in their order, with a step after so many of them. */
export function* eachInSteps<Thing>(things: Iterable<Thing>, take: (thing: Thing) => void): Steps<void> {
  let taken = 0
  for (const thing of things) {
    take(thing)
    taken += 1
    if (taken % THINGS_A_STEP === 0) yield
  }
}
