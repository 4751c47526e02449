import type { DraftConflict } from '@/core/drafts/lay-over'
import type { Change, Store } from '@/core/store/store'
import { changeWords } from '@/sheet/effect/change-words'
import { issueSentence } from '@/ui/format/refusal-sentence'
import type { ConflictView } from './review-view'

const WHOLE: Readonly<
  Record<'exists' | 'gone' | 'changed', { because: string; mine: string; theirs: string }>
> = {
  exists: {
    because: 'It was made live, too, and says something else there.',
    mine: 'as the draft has it',
    theirs: 'as it is live',
  },
  gone: {
    because: 'It was removed live.',
    mine: 'make it anew, as the draft has it',
    theirs: 'leave it removed',
  },
  changed: {
    because: 'The draft removes it; live it was changed.',
    mine: 'remove it',
    theirs: 'keep it as it is live',
  },
}

/** A conflict between a draft and live, in words, with the ways out. */
export function toConflict({ change, because }: DraftConflict, live: Store, store: Store): ConflictView {
  const { title, href } = changeWords(change, live, store)
  const about = { record: { kind: change.kind, id: change.id }, title, href }
  if (because.code === 'invalid')
    return {
      ...about,
      because: `It does not fit the store as it is live by now. ${issueSentence(because.issue)}`,
      fields: [],
      whole: { mine: '', theirs: 'remove it from the draft' },
    }
  if (because.code !== 'fields') {
    const { because: text, mine, theirs } = WHOLE[because.code]
    return { ...about, because: text, fields: [], whole: { mine, theirs } }
  }
  return {
    ...about,
    because: 'Live has moved on since the draft changed it.',
    whole: null,
    fields: because.fields.map(({ field, mine, theirs }) => ({
      field,
      name: fieldName(change, field, mine, theirs, live, store),
      mine: valueText(change, field, mine, live, store),
      theirs: valueText(change, field, theirs, live, store),
      isPlain: [mine, theirs].every((value) => value === null || typeof value === 'string'),
    })),
  }
}

/** A field as its sheet calls it: the one that says something else for another value of it. */
function fieldName(
  change: Change,
  field: string,
  mine: unknown,
  theirs: unknown,
  live: Store,
  store: Store,
): string {
  const [word] = wordsOf(change, field, mine, theirs, live, store)
  return word?.name ?? field
}

function valueText(change: Change, field: string, value: unknown, live: Store, store: Store): string {
  const [word] = wordsOf(change, field, undefined, value, live, store)
  return word?.to ?? (value === null ? 'nothing' : String(value))
}

function wordsOf(change: Change, field: string, from: unknown, to: unknown, live: Store, store: Store) {
  const record = change.after ?? change.before
  const put = (value: unknown) => ({ ...record, [field]: value }) as never
  const other = from === undefined ? (typeof to === 'string' ? null : []) : from
  try {
    return changeWords({ ...change, before: put(other), after: put(to) } as Change, live, store).fields
  } catch {
    // A value no sentence can be made of is told as it is.
    return []
  }
}
