import 'server-only'

/** Whose name stands in the history. Until people sign in, it is the person at this machine. */
export function currentAuthor(): string {
  return 'Merchant'
}
