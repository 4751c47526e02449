import 'server-only'

import type { AccessRule, Passcode } from '@/core/access/access'
import type { Fields } from '@/sheet/fields/field-rule'
import { placeWords, say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'

/** "Guests do not see Treatments in any channel, always. A direct link asks them to sign in." */
export function accessRuleSentence(record: Fields): Sentence {
  const { effect, message, landing } = record as unknown as AccessRule
  const link =
    effect === 'hide'
      ? say` A direct link ${word('landing')}${landing === 'message' ? say`: ${word('message', message ? `“${message}”` : 'the shop’s own words')}` : say`, and says ${word('message', message ? `“${message}”` : 'the shop’s own words')}`}.`
      : null
  return say`${word('audience')} ${word('effect')} ${word('scope')} ${placeWords(record)}, ${word('schedule')}.${link}`
}

export function accessRuleDetails(record: Fields): Sentence {
  const { effect } = record as unknown as AccessRule
  const link =
    effect === 'hide'
      ? null
      : say` · a direct link ${word('landing')}, which says ${word('message', record['message'] ? `“${String(record['message'])}”` : 'the shop’s own words')}`
  return say`It is ${word('state')} · priority ${word('rank')} among rules that say equally much · code ${word('code', String(record['code'] || 'made from the name'))}${link}.`
}

/** "Whoever types “look-inside” …" */
export function passcodeSentence(record: Fields): Sentence {
  const { word: typed, channel, from, to } = record as unknown as Passcode
  return say`Whoever enters ${word('word', typed ? `“${typed}”` : 'a word to choose')} comes into ${word('channel', channel ? '' : 'every channel')}, from ${word('from', from ? '' : 'the start')} until ${word('to', to ? '' : 'no end')}, and ${word('isReview')}.`
}

export function passcodeDetails(record: Fields): Sentence {
  return say`Code ${word('code', String(record['code'] || 'made from the name'))}.`
}
