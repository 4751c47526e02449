import { InputReader } from '../issue/input-reader'
import type { Parsed } from '../issue/issue'
import { parseSchedule, parseScope } from '../predicates/parse-predicates'
import { ALWAYS } from '../predicates/when'
import type { AccessRule, Passcode } from './access'

export function parseAccessRule(input: AccessRule): Parsed<AccessRule> {
  const reader = new InputReader('access-rule', input.code)
  if (input.audience.include.length === 0) reader.report('empty-audience', 'audience', '')
  parseScope(reader, 'scope', input.scope)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    rank: reader.wholeNumber('rank', input.rank, 1),
    schedule: parseSchedule(reader, 'schedule', input.schedule),
    message: input.message.trim(),
  })
}

const SHORTEST_WORD = 4

export function parsePasscode(input: Passcode): Parsed<Passcode> {
  const reader = new InputReader('passcode', input.code)
  const word = reader.text('word', input.word)
  if (word !== '' && word.length < SHORTEST_WORD)
    reader.report('too-short', 'word', input.word, String(SHORTEST_WORD))
  const { from, to } = parseSchedule(reader, 'period', { ...ALWAYS, from: input.from, to: input.to })
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    word,
    from,
    to,
  })
}
