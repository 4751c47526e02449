import { DraftReader } from '../issue/draft-reader'
import type { Parsed } from '../issue/issue'
import { parseSchedule, parseScope } from '../predicates/parse-predicates'
import { ALWAYS } from '../predicates/when'
import type { AccessRule, Passcode } from './access'

export function parseAccessRule(draft: AccessRule): Parsed<AccessRule> {
  const reader = new DraftReader('access-rule', draft.code)
  if (draft.audience.include.length === 0) reader.report('empty-audience', 'audience', '')
  parseScope(reader, 'scope', draft.scope)
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    rank: reader.wholeNumber('rank', draft.rank, 1),
    schedule: parseSchedule(reader, 'schedule', draft.schedule),
    message: draft.message.trim(),
  })
}

const SHORTEST_WORD = 4

export function parsePasscode(draft: Passcode): Parsed<Passcode> {
  const reader = new DraftReader('passcode', draft.code)
  const word = reader.text('word', draft.word)
  if (word !== '' && word.length < SHORTEST_WORD)
    reader.report('too-short', 'word', draft.word, String(SHORTEST_WORD))
  const { from, to } = parseSchedule(reader, 'period', { ...ALWAYS, from: draft.from, to: draft.to })
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    word,
    from,
    to,
  })
}
