import { typedAmount } from '../decimal/written-amount'
import type { PromotionInput } from '../promotions/parse-promotion'
import type { FreeBracket, PromotionValue } from '../promotions/promotion'
import type { ReadRule } from './read-rule'

type ValueInput = PromotionInput['value']
type KindOfInput<Kind extends ValueInput['kind']> = Extract<ValueInput, { readonly kind: Kind }>
export type SavingInput = KindOfInput<'item-price'>['saving']
export type MoneyInput = Extract<SavingInput, { readonly kind: 'amount' }>['amount']
export type SetSavingInput = KindOfInput<'set'>['saving']

/** A part of a set; what it is of is still as it is written, and `null` is all the promotion is for. */
export interface SetPartText {
  readonly count: number
  readonly of: string | null
}

/** What a promotion does, taken apart, with goods as they are written: by names, codes and SKUs. */
export type OfferText =
  | Exclude<ValueInput, { readonly kind: 'set' | 'free-goods' }>
  | { readonly kind: 'set'; readonly parts: readonly SetPartText[]; readonly saving: SetSavingInput }
  | {
      readonly kind: 'free-goods'
      readonly brackets: readonly FreeBracket[]
      readonly gift: 'same' | 'bought' | { readonly sku: string }
      readonly repeats: boolean
    }

export const PROMOTION_EXAMPLES: Readonly<Record<PromotionValue['kind'], string>> = {
  'item-price': 'each: 10 % off',
  'by-quantity': 'from 12 together: 10 % off',
  set: 'any 3: at 60',
  'free-goods': 'buy 12: 1 free',
  order: 'order from 100: 5 % off',
  delivery: 'delivery: free',
  payment: 'card: 2 % off',
}

/**
 * An offer as it is written: `each: 10 % off`, `from 12 together: at 9.90`, `any 3: at 60`, `1 of Hives + 2 of Frames: 1 free`,
 * `buy 12: 1 of SM-1 free`, `order from 100: 5 % off, from 200: 10 % off`, `delivery: free`, `card: 2 % more`. An amount in
 * another currency stands behind the store's: `60 (USD 66)`.
 *
 * Holds   `readOffer(writeOffer(offer))` is `offer`.
 */
export function writeOffer(offer: OfferText): string {
  switch (offer.kind) {
    case 'item-price':
      return `each: ${writeSaving(offer.saving)}${offer.closes ? ', closed to others' : ''}`
    case 'by-quantity':
      return `${offer.applies === 'all' ? 'from' : 'above'} ${offer.from} together: ${writeSaving(offer.saving)}`
    case 'set': {
      const parts = offer.parts.map(({ count, of }) => (of === null ? `any ${count}` : `${count} of ${of}`))
      return `${parts.join(' + ')}: ${writeSetSaving(offer.saving)}`
    }
    case 'free-goods': {
      const { brackets, gift, repeats } = offer
      const what = gift === 'same' ? '' : gift === 'bought' ? ' of them' : ` of ${gift.sku}`
      const each = brackets.map(({ from, free }) => `${from}: ${free}`).join(', ')
      return `buy ${each}${what} free${repeats ? '' : ', once'}`
    }
    case 'order':
      return `order ${offer.brackets
        .map(({ from, saving }) => `${from ? `from ${writeMoney(from)}` : ''}: ${writeSaving(saving)}`)
        .join(', ')}`.replace('order :', 'order:')
    case 'delivery':
      return `delivery: ${offer.saving.kind === 'free' ? 'free' : writeSaving(offer.saving)}`
    case 'payment':
      return `${offer.payment}: ${writeSaving(offer.saving, offer.isSurcharge ? 'more' : 'off')}`
  }
}

function writeSaving(saving: SavingInput, direction: 'off' | 'more' = 'off'): string {
  if (saving.kind === 'percent') return `${saving.percent} % ${direction}`
  return saving.kind === 'amount'
    ? `${writeMoney(saving.amount)} ${direction}`
    : `at ${writeMoney(saving.price)}`
}

function writeSetSaving(saving: SetSavingInput): string {
  return saving.kind === 'cheapest-free' ? `${saving.count} free` : writeSaving(saving)
}

export function writeMoney({ amount, own }: MoneyInput): string {
  const others = Object.entries(own).map(([code, each]) => `${code} ${each}`)
  return others.length === 0 ? amount : `${amount} (${others.join(', ')})`
}

/** Errors  names the part that means nothing, and how the same kind is written. */
export function readOffer(text: string): ReadRule<OfferText> {
  const typed = text.trim().replace(/\s+/g, ' ')
  for (const read of [readEach, readByQuantity, readFree, readOrder, readCharge, readSet]) {
    const found = read(typed)
    if (found) return found
  }
  const examples = Object.values(PROMOTION_EXAMPLES).map((example) => `“${example}”`)
  return problem(`“${text}” is no offer. Write it like ${examples.join(', ')}.`)
}

type Reader = (text: string) => ReadRule<OfferText> | null

function problem(words: string): { readonly ok: false; readonly problem: string } {
  return { ok: false, problem: words }
}

function ok(value: OfferText): ReadRule<OfferText> {
  return { ok: true, value }
}

const readEach: Reader = (text) => {
  const match = /^each ?: ?(.+?)(, ?closed to others)?$/i.exec(text)
  if (!match) return null
  const saving = readSaving(match[1] as string)
  return saving
    ? ok({ kind: 'item-price', saving, closes: match[2] !== undefined })
    : noSaving(match[1] as string)
}

const readByQuantity: Reader = (text) => {
  const match = /^(from|above) (\S+)(?: together)? ?: ?(.+)$/i.exec(text)
  if (!match) return null
  const [, word = '', from = '', rest = ''] = match
  const saving = readSaving(rest)
  const applies = word.toLowerCase() === 'from' ? 'all' : 'above'
  return saving ? ok({ kind: 'by-quantity', from: typedAmount(from), applies, saving }) : noSaving(rest)
}

const readSet: Reader = (text) => {
  const at = text.lastIndexOf(':')
  if (at < 0 || !/^(any )?\d+\b/i.test(text)) return null
  const parts: SetPartText[] = []
  for (const part of text.slice(0, at).split('+')) {
    const match = /^(?:any (\d+)|(\d+) of (.+))$/i.exec(part.trim())
    if (!match) return problem(`“${part.trim()}” is no part of a set. Write “any 3” or “2 of Frames”.`)
    parts.push({ count: Number(match[1] ?? match[2]), of: match[3] ?? null })
  }
  const rest = text.slice(at + 1).trim()
  const free = /^(\d+) free$/i.exec(rest)
  const saving = free ? ({ kind: 'cheapest-free', count: Number(free[1]) } as const) : readSaving(rest)
  return saving ? ok({ kind: 'set', parts, saving }) : noSaving(rest, '“1 free”, ')
}

const readFree: Reader = (text) => {
  const match = /^buy (.+?)(?: of (.+?))? free(, ?once)?$/i.exec(text)
  if (!match) return null
  const brackets: FreeBracket[] = []
  for (const part of (match[1] as string).split(',')) {
    const bracket = /^(\d+) ?: ?(\d+)$/.exec(part.trim())
    if (!bracket) return problem(`“${part.trim()}” says nothing. Write “buy 12: 1 free”.`)
    brackets.push({ from: Number(bracket[1]), free: Number(bracket[2]) })
  }
  const of = match[2]?.trim() ?? ''
  const repeats = match[3] === undefined
  if (of === '') return ok({ kind: 'free-goods', brackets, gift: 'same', repeats })
  if (of.toLowerCase() === 'them') return ok({ kind: 'free-goods', brackets, gift: 'bought', repeats })
  return ok({ kind: 'free-goods', brackets, gift: { sku: of }, repeats })
}

const readOrder: Reader = (text) => {
  const match = /^order ?(.*)$/i.exec(text)
  if (!match) return null
  const brackets: { from: MoneyInput | null; saving: Exclude<SavingInput, { kind: 'price' }> }[] = []
  for (const part of splitOutside(match[1] as string)) {
    const bracket = /^(?:from (.+?))? ?: ?(.+)$/i.exec(part.trim())
    const saving = bracket && readSaving(bracket[2] as string)
    const from = bracket?.[1] === undefined ? null : readMoney(bracket[1])
    if (!saving || saving.kind === 'price' || (bracket?.[1] !== undefined && !from))
      return problem(`“${part.trim()}” says nothing. Write “order from 100: 5 % off”.`)
    brackets.push({ from, saving })
  }
  return ok({ kind: 'order', brackets })
}

const readCharge: Reader = (text) => {
  const match = /^(delivery|card|terms) ?: ?(.+)$/i.exec(text)
  if (!match) return null
  const [, word = '', rest = ''] = match
  const on = word.toLowerCase()
  if (on === 'delivery') {
    if (/^free$/i.test(rest)) return ok({ kind: 'delivery', saving: { kind: 'free' } })
    const saving = readSaving(rest)
    return saving ? ok({ kind: 'delivery', saving }) : noSaving(rest, '“free”, ')
  }
  const isSurcharge = / more$/i.test(rest)
  const saving = readSaving(rest.replace(/ more$/i, ' off'))
  return saving && saving.kind !== 'price'
    ? ok({ kind: 'payment', payment: on as 'card' | 'terms', saving, isSurcharge })
    : problem(`“${rest}” is nothing for paying so. Write “2 % off”, “2 % more” or “1 off”.`)
}

function noSaving(text: string, more = ''): ReadRule<OfferText> {
  return problem(`“${text}” is no saving. Write ${more}“10 % off”, “2 off” or “at 9.90”.`)
}

/** Errors  `null` for what is none. */
function readSaving(text: string): SavingInput | null {
  const price = /^at (.+)$/i.exec(text.trim())
  if (price) {
    const money = readMoney(price[1] as string)
    return money && { kind: 'price', price: money }
  }
  const off = /^(.+?) ?(%?) ?off$/i.exec(text.trim())
  if (!off) return null
  const [, size = '', unit = ''] = off
  if (unit === '%') return { kind: 'percent', percent: typedAmount(size) }
  const money = readMoney(size)
  return money && { kind: 'amount', amount: money }
}

/** Errors  `null` where nothing is written, or what stands in brackets is no currency and amount. */
export function readMoney(text: string): MoneyInput | null {
  const match = /^([^()]+?)(?: ?\((.+)\))?$/.exec(text.trim())
  if (!match) return null
  const own: Record<string, string> = {}
  for (const part of match[2]?.split(',') ?? []) {
    const each = /^([a-z]{3}) (\S+)$/i.exec(part.trim())
    if (!each) return null
    own[(each[1] as string).toUpperCase()] = typedAmount(each[2] as string)
  }
  return { amount: typedAmount(match[1] as string), own }
}

/** The parts between commas that stand in no brackets. */
function splitOutside(text: string): readonly string[] {
  return text.split(/,(?![^(]*\))/)
}
