import 'server-only'

import { readRounding, writeRounding } from '@/core/notation/rounding-text'
import { readWhat, writeWhat } from '@/core/notation/what-text'
import { readWhen, writeWhen } from '@/core/notation/when-text'
import { readWhere, writeWhere } from '@/core/notation/where-text'
import { readWho, writeWho } from '@/core/notation/who-text'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { What } from '@/core/predicates/what'
import type { Schedule } from '@/core/predicates/when'
import type { Where } from '@/core/predicates/where'
import type { Who } from '@/core/predicates/who'
import { roundingPhrase, whatSentence, whereSentence, whoSentence } from '@/ui/format/rule-phrases'
import { choiceField, type FieldRule, numberField, ruleField, textField } from './field-rule'

export const code = textField(['code', 'Code', 'Used in addresses and files. Empty makes one from the name.'])
export const name = textField(['name', 'Name'])
export const position = numberField([
  'position',
  'Position',
  'Its place among its neighbours; 0 is the first.',
])
export const onOff = choiceField(
  ['state', 'State'],
  [
    ['on', 'switched on'],
    ['off', 'switched off'],
  ],
)
export const rank = numberField(['rank', 'Priority', '1 is checked first.'])

export const audience: FieldRule = {
  ...ruleField<Who>(
    [
      'audience',
      'Who',
      'everyone, guests, signed in, trade, a group, an account, #tag, an e-mail address; not … leaves out.',
    ],
    writeWho,
    readWho,
    whoSentence,
  ),
  control: 'who',
}
export const scope: FieldRule = {
  ...ruleField<What>(
    [
      'scope',
      'What',
      'everything, a category, family, product code, SKU, extra, Fabric=mesh, in stock, only a category without its branches, base 5–20; not … leaves out.',
    ],
    writeWhat,
    readWhat,
    whatSentence,
  ),
  control: 'what',
}
export const place: FieldRule = {
  ...ruleField<Where>(
    ['place', 'Where', 'Channels, their groups and regions; empty is everywhere.'],
    writeWhere,
    readWhere,
    whereSentence,
  ),
  control: 'where',
}
export const schedule: FieldRule = {
  ...ruleField<Schedule>(
    [
      'schedule',
      'When',
      'from 1 March 2027 until 31 May 2027, Mondays to Fridays, 16:00 to 18:00; empty is always.',
    ],
    (_store, when) => writeWhen(when),
    (_store, text) => readWhen(text),
    (when) => writeWhen(when),
  ),
  control: 'when',
}
export const rounding: FieldRule = {
  ...ruleField<RoundingRule | null>(
    ['rounding', 'Rounding', '0.05, 0.05 up, ends .95, ends 4.90 9.90 in 10; empty for the smallest unit.'],
    (_store, rule) => writeRounding(rule),
    (_store, text) => readRounding(text),
    (rule) => (rule ? roundingPhrase(rule) : 'to the smallest unit'),
  ),
  control: 'rounding',
}
