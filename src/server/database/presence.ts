import 'server-only'

import { log } from '../operations/log'

/** Milliseconds between two looks at whether a database is back. */
const AGAIN = 1_000
/** Milliseconds something is known without the database that was known from it. */
const KNOWN_FOR = 600_000
const MOST_KNOWN = 10_000

/** What a connection that breaks, or cannot be made, says of itself: by the system, and by PostgreSQL (appendix A of its manual). */
const GONE_CODES =
  /^(ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|EHOSTUNREACH|ENETUNREACH|ENOTFOUND|EAI_AGAIN|08\w{3}|57P0[1-3])$/
const GONE_WORDS =
  /^(Connection terminated|Client has encountered a connection error|timeout exceeded when trying)/

/** Whether an error says that the database is not there, and not that it refused something. */
export function saysGone(error: unknown): boolean {
  for (let each = error; each instanceof Error; each = each.cause) {
    const { code, message } = each as Error & { readonly code?: unknown }
    if (GONE_CODES.test(String(code ?? '')) || GONE_WORDS.test(message)) return true
    // Several addresses of one name were tried.
    if (each instanceof AggregateError && each.errors.some(saysGone)) return true
  }
  return false
}

/** Whether a database is there to be asked. While it is not, what is known without it is answered, and nobody waits for it. */
export class Presence {
  private gone = false
  private timer: NodeJS.Timeout | null = null

  /** `look` rejects while the database is gone. */
  constructor(private readonly look: () => Promise<unknown>) {}

  get isGone(): boolean {
    return this.gone
  }

  /** What the database says; while it is gone, what is known without it. Errors  rejects with any other error of reading. */
  async orKnown<Result>(read: () => Promise<Result>, known: () => Result | Promise<Result>): Promise<Result> {
    if (this.gone) return known()
    try {
      return await read()
    } catch (error) {
      if (!saysGone(error)) throw error
      this.note()
      return known()
    }
  }

  /** Somebody found that it is gone. */
  note(): void {
    if (this.gone) return
    this.gone = true
    log.warn('the database does not answer: what is known is answered, and nothing is written')
    this.wait()
  }

  end(): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
  }

  private wait(): void {
    this.timer = setTimeout(() => {
      this.look().then(
        () => {
          this.gone = false
          log.warn('the database answers again')
        },
        () => this.wait(),
      )
    }, AGAIN)
    this.timer.unref()
  }
}

/** A database that lies in this process is there as long as the process is. */
export function alwaysThere(): Presence {
  return new Presence(() => Promise.resolve())
}

/** The error with which something is asked for that only a database knows which is gone. */
export class DatabaseGoneError extends Error {
  constructor() {
    super('The database does not answer just now.')
  }
}

/** What was read of a database lately, by key, to go on with while it is gone. */
export class LatelyRead<Value> {
  private readonly known = new Map<string, { readonly value: Value; readonly at: number }>()

  /** Reads, or remembers what was read. Errors  rejects with `DatabaseGoneError` for what was not read lately. */
  read(presence: Presence, key: string, read: () => Promise<Value>): Promise<Value> {
    return presence.orKnown(
      async () => {
        const value = await read()
        this.known.delete(key)
        this.known.set(key, { value, at: Date.now() })
        if (this.known.size > MOST_KNOWN) for (const [oldest] of this.known) return this.forget(oldest, value)
        return value
      },
      () => {
        const found = this.known.get(key)
        if (!found || Date.now() - found.at > KNOWN_FOR) throw new DatabaseGoneError()
        return found.value
      },
    )
  }

  private forget(key: string, value: Value): Value {
    this.known.delete(key)
    return value
  }
}
