import 'server-only'

import type { Decimal } from '@/core/decimal/decimal'
import { getSettings, priceDigitsOf, type Settings, type Store } from '@/core/store/store'
import type { Fields } from '@/sheet/fields/field-rule'
import { PARAGRAPH, say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'
import { formatMoney } from '@/ui/format/amount'

/** How the store's own rules read, one after the other. */
export function storeSentence(record: Fields, store: Store): Sentence {
  const settings = record as unknown as Settings
  const { currency } = getSettings(store)
  const money = (amount: Decimal | null, none: string) =>
    amount === null ? none : formatMoney(amount, currency, priceDigitsOf(store, currency))
  const registrations = Object.entries(settings.taxRegistrations)
  return say`Prices are in ${word('currency')} with ${word('priceDigits', `${String(settings.priceDigits)} decimal places`)}, entered ${word('taxBasis')}. Where several lists apply, ${word('policy')} counts; a price above the public one ${word('neverAbovePublic')}. The shop strikes through ${word('comparedWith')}. Changes ${word('publishing')}.${PARAGRAPH}Tax follows ${word('taxPlace')}, is rounded ${word('taxRounding')}, and totals show it ${word('taxTotals')}; prices with tax ${word('grossElsewhere')} elsewhere. Goods are taxed as ${word('taxClass', settings.taxClass ? '' : 'nothing')}, delivery ${word('deliveryTaxClass', settings.deliveryTaxClass ? '' : 'like the goods')}.${PARAGRAPH}Delivery costs ${word('deliveryPrice', money(settings.deliveryPrice, 'nothing'))}, and nothing from ${word('deliveryFreeFrom', money(settings.deliveryFreeFrom, 'no value'))} on. An offer stands for ${word('quoteDays', `${settings.quoteDays} days`)}; one below ${word('quoteMargin', settings.quoteMargin === null ? 'no margin' : `${settings.quoteMargin} % margin`)} needs approval.${PARAGRAPH}Reverse charge among ${word('unionCountries', settings.unionCountries.length > 0 ? `${settings.unionCountries.length} countries` : 'no countries')}; registered ${word('taxRegistrations', registrations.length > 0 ? registrations.map(([land, number]) => `in ${land} as ${number}`).join(', ') : 'nowhere')}.`
}

export function storeDetails(record: Fields): Sentence {
  const { shopHeadline, shopContact, shopEmail, netWords, grossWords } = record as unknown as Settings
  return say`Sells from ${word('country')}, time zone ${word('timeZone')}.${PARAGRAPH}The shop’s headline: ${word('shopHeadline', shopHeadline || 'the name alone')} · its colour: ${word('shopColour')} · contact: ${word('shopContact', shopContact || 'none')} · mails come from ${word('shopEmail', shopEmail || 'no address')} · prices read ${word('netWords', netWords || 'without tax')} and ${word('grossWords', grossWords || 'with tax')}.`
}
