/** Has the server installed, where it is not. Errors  rejects where it cannot be. */
export function ensurePostgres(): Promise<void>

interface PostgresServer {
  /** `postgres://` and so on, of the database that is there from the beginning. */
  readonly url: string
  readonly start: () => Promise<void>
  /** Ends it at once: whoever is connected is cut off. */
  readonly stop: () => Promise<void>
  readonly remove: () => Promise<void>
}

/** Starts a server of its own in a temporary directory. Errors  rejects where there is none to start. */
export function startPostgres(): Promise<PostgresServer>

/** A port that is free on this machine. */
export function freePort(): Promise<number>
