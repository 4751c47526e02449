import 'server-only'

/** How far a start has come. */
export interface StartProgress {
  readonly step: 'opening' | 'reading' | 'preparing' | 'filling' | 'ready'
  /** Records read so far; 0 where they are not counted. */
  readonly done: number
  /** Of how many, where that is known. */
  readonly of: number | null
}

// What answers first is built apart from what starts.
const HANDLE = Symbol.for('steppe.start-progress')
const holder = globalThis as { [HANDLE]?: StartProgress }

/** How far this process is on its way to its first answer. */
export function startProgress(): StartProgress {
  return holder[HANDLE] ?? { step: 'opening', done: 0, of: null }
}

/** Says how far it has come; what is opened again later, as tests do, is of no interest to those who wait. */
export function noteStart(step: StartProgress['step'], done = 0, of: number | null = null): void {
  if (holder[HANDLE]?.step === 'ready') return
  holder[HANDLE] = { step, done, of }
}
