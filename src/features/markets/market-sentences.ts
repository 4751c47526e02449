import 'server-only'

import type { Channel, Region } from '@/core/places/place'
import { getSettings, type Store } from '@/core/store/store'
import type { Fields } from '@/sheet/fields/field-rule'
import { say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'

/** "In Great Britain people pay in GBP; the shop shows prices with tax …" */
export function regionSentence(record: Fields, store: Store): Sentence {
  const { countries, currency, isDefault } = record as unknown as Region
  const lands = countries.length > 0 ? '' : isDefault ? 'all other countries' : 'no country yet'
  return say`In ${word('countries', lands)} people pay in ${word('currency', currency ? '' : `${getSettings(store).currency}, as the store does`)}, rounded ${word('rounding', record['rounding'] ? '' : 'as the currency says')}. The shop shows prices ${word('taxDisplay')}, the cart ${word('cartTaxDisplay')}. Default region: ${word('isDefault')}.`
}

export function regionDetails(record: Fields): Sentence {
  return say`Code ${word('code', String(record['code'] || 'made from the name'))} · position ${word('position')} in lists.`
}

/** "Open to everyone, selling everything; a channel of Online." */
export function channelSentence(record: Fields): Sentence {
  const { groups } = record as unknown as Channel
  return say`It is ${word('gate')}, and sells ${word('assortment')}. It belongs to ${word('groups', groups.length === 0 ? 'no group of channels' : '')}.`
}

export function channelDetails(record: Fields): Sentence {
  return say`Code ${word('code', String(record['code'] || 'made from the name'))} · position ${word('position')}; the first channel is the one a question is asked in when none is named.`
}
