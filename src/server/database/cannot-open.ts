import 'server-only'

/** Why a data directory or its database is not opened, in words for whoever runs it: nothing in it was changed. */
export class CannotOpenError extends Error {}

/** A database that a later version has changed: this one would not know what it holds. */
export class NewerDatabaseError extends CannotOpenError {
  constructor() {
    super(
      'The data was written by a newer version of Steppe. Start that version, or restore a backup that this one made into a directory of its own: npm run restore -- FILE --data DIR',
    )
  }
}

/** A change of the tables that did not go through. */
export class NotMigratedError extends CannotOpenError {
  constructor(cause: unknown) {
    super(
      `The data could not be brought to this version of Steppe (${wordsOf(cause)}). None of it was changed: the version before still starts. Make a backup with that one before trying again.`,
      { cause },
    )
  }
}

/** Files that are not the database they were. */
export class DamagedDatabaseError extends CannotOpenError {
  constructor(directory: string, cause: unknown) {
    super(
      `The database in ${directory} cannot be opened (${wordsOf(cause)}): its files are damaged or not all there. Nothing was changed. Restore a backup into a directory of its own: npm run restore -- FILE --data DIR`,
      { cause },
    )
  }
}

/** A PostgreSQL server that is not there. */
export class SilentServerError extends CannotOpenError {
  constructor(cause: unknown) {
    super(
      `The database server does not answer (${wordsOf(cause)}). Start it, or put its address right: DATABASE_URL, or the file database-url in the data directory.`,
      { cause },
    )
  }
}

/** The innermost reason in one line. */
function wordsOf(error: unknown): string {
  let innermost = error
  while (innermost instanceof Error && innermost.cause instanceof Error) innermost = innermost.cause
  const text = innermost instanceof Error ? innermost.message : String(innermost)
  return (text.split('\n')[0] ?? '').replace(/\.$/, '').slice(0, 200)
}
