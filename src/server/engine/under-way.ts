import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Change } from '@/core/store/store'

/** The order of writes. */
export interface Turns {
  /** Settles when the write before has ended; the next one waits for it. */
  writing: Promise<unknown>
}

/** A large change that is weighed, and then written in slices, while others go on working. */
export interface UnderWay {
  /** What it touches, by `kind/id`: nobody else writes these meanwhile. */
  readonly records: ReadonlySet<string>
  /** The number it will have; whatever is written before it ends takes one below. */
  readonly changeSet: number
  /** What others have changed since it began, while it is not weighed yet. */
  readonly meanwhile: Change[]
  /** The store with it, once it is weighed, and with everything else that is written meanwhile. */
  after: PreparedStore | null
  /** Settles when it is written or called off. Rejects when it could be neither. */
  readonly ended: Promise<void>
  readonly end: () => void
  readonly fail: (error: unknown) => void
}
