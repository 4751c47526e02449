import 'server-only'

import { findDoer } from './doer'

/** Whose name stands in the history. Errors  throws `RangeError` where nobody is known: what is done there has no permit. */
export async function currentAuthor(): Promise<string> {
  const doer = await findDoer()
  if (!doer) throw new RangeError('nobody is known who does this')
  return doer.name
}
