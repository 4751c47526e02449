import 'server-only'

import { currentDoer } from '../session/doing'

/** What was noted of a change, for whoever asks: what a cost was changed to is not told to those who must not know it. */
export function shownNote(note: string): string {
  const doer = currentDoer()
  if (!doer || doer.permissions.has('costs:see')) return note
  return note.replace(/\b(Cost of [^:]+):.*$/s, '$1')
}
