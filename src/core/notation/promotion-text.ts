import { typedAmount } from '../decimal/written-amount'
import { findBySku } from '../catalogue/find-by-code'
import type { What } from '../predicates/what'
import type { PromotionInput } from '../promotions/parse-promotion'
import type { FreeBracket, Money, PromotionValue, Saving, SetSaving } from '../promotions/promotion'
import type { Store } from '../store/store'
import type { ReadRule } from './read-rule'
import { readWhat, writeWhat } from './what-text'

type ValueInput = PromotionInput['value']
type SavingInput = Extract<ValueInput, { readonly kind: 'item-price' }>['saving']
type MoneyInput = Extract<SavingInput, { readonly kind: 'amount' }>['amount']

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
 * What a promotion does, as it is written: `each: 10 % off`, `from 12 together: at 9.90`, `any 3: at 60`,
 * `1 of Hives + 2 of Frames: 1 free`, `buy 12: 1 of SM-1 free`, `order from 100: 5 % off, from 200: 10 % off`,
 * `delivery: free`, `card: 2 % more`. An amount in another currency stands behind the store's: `60 (USD 66)`.
 *
 * Holds   `readPromotionValue(writePromotionValue(value))` is `value`.
 */
export function writePromotionValue(store: Store, value: PromotionValue): string {
  switch (value.kind) {
    case 'item-price':
      return `each: ${writeSaving(value.saving)}${value.closes ? ', closed to others' : ''}`
    case 'by-quantity':
      return `${value.applies === 'all' ? 'from' : 'above'} ${value.from} together: ${writeSaving(value.saving)}`
    case 'set': {
      const parts = value.parts.map(({ count, scope }) =>
        scope ? `${count} of ${writeWhat(store, scope)}` : `any ${count}`,
      )
      return `${parts.join(' + ')}: ${writeSetSaving(value.saving)}`
    }
    case 'free-goods': {
      const { brackets, gift, repeats } = value
      const what =
        gift === 'same'
          ? ''
          : gift === 'bought'
            ? ' of them'
            : ` of ${store.variant.get(gift.variant)?.sku ?? gift.variant}`
      const each = brackets.map(({ from, free }) => `${from}: ${free}`).join(', ')
      return `buy ${each}${what} free${repeats ? '' : ', once'}`
    }
    case 'order':
      return `order ${value.brackets
        .map(({ from, saving }) => `${from ? `from ${writeMoney(from)}` : ''}: ${writeSaving(saving)}`)
        .join(', ')}`.replace('order :', 'order:')
    case 'delivery':
      return `delivery: ${value.saving.kind === 'free' ? 'free' : writeSaving(value.saving)}`
    case 'payment':
      return `${value.payment}: ${writeSaving(value.saving, value.isSurcharge ? 'more' : 'off')}`
  }
}

function writeSaving(saving: Saving, direction: 'off' | 'more' = 'off'): string {
  if (saving.kind === 'percent') return `${saving.percent} % ${direction}`
  return saving.kind === 'amount'
    ? `${writeMoney(saving.amount)} ${direction}`
    : `at ${writeMoney(saving.price)}`
}

function writeSetSaving(saving: SetSaving): string {
  return saving.kind === 'cheapest-free' ? `${saving.count} free` : writeSaving(saving)
}

export function writeMoney({ amount, own }: Money): string {
  const others = Object.entries(own).map(([code, each]) => `${code} ${each}`)
  return others.length === 0 ? amount : `${amount} (${others.join(', ')})`
}

/** Errors  names the part that means nothing, and how the same kind is written. */
export function readPromotionValue(store: Store, text: string): ReadRule<ValueInput> {
  const typed = text.trim().replace(/\s+/g, ' ')
  for (const read of [readEach, readByQuantity, readFree, readOrder, readCharge, readSet]) {
    const found = read(store, typed)
    if (found) return found
  }
  const examples = Object.values(PROMOTION_EXAMPLES).map((example) => `“${example}”`)
  return problem(`“${text}” is no offer. Write it like ${examples.join(', ')}.`)
}

type Reader = (store: Store, text: string) => ReadRule<ValueInput> | null

function problem(words: string): { readonly ok: false; readonly problem: string } {
  return { ok: false, problem: words }
}

function ok(value: ValueInput): ReadRule<ValueInput> {
  return { ok: true, value }
}

const readEach: Reader = (_, text) => {
  const match = /^each ?: ?(.+?)(, ?closed to others)?$/i.exec(text)
  if (!match) return null
  const saving = readSaving(match[1] as string)
  return saving
    ? ok({ kind: 'item-price', saving, closes: match[2] !== undefined })
    : noSaving(match[1] as string)
}

const readByQuantity: Reader = (_, text) => {
  const match = /^(from|above) (\S+)(?: together)? ?: ?(.+)$/i.exec(text)
  if (!match) return null
  const [, word = '', from = '', rest = ''] = match
  const saving = readSaving(rest)
  const applies = word.toLowerCase() === 'from' ? 'all' : 'above'
  return saving ? ok({ kind: 'by-quantity', from: typedAmount(from), applies, saving }) : noSaving(rest)
}

const readSet: Reader = (store, text) => {
  const at = text.lastIndexOf(':')
  if (at < 0 || !/^(any )?\d+\b/i.test(text)) return null
  const parts: { count: number; scope: What | null }[] = []
  for (const part of text.slice(0, at).split('+')) {
    const match = /^(?:any (\d+)|(\d+) of (.+))$/i.exec(part.trim())
    if (!match) return problem(`“${part.trim()}” is no part of a set. Write “any 3” or “2 of Frames”.`)
    const scope = match[3] === undefined ? null : readWhat(store, match[3])
    if (scope && !scope.ok) return scope
    parts.push({ count: Number(match[1] ?? match[2]), scope: scope ? scope.value : null })
  }
  const rest = text.slice(at + 1).trim()
  const free = /^(\d+) free$/i.exec(rest)
  const saving = free ? ({ kind: 'cheapest-free', count: Number(free[1]) } as const) : readSaving(rest)
  return saving ? ok({ kind: 'set', parts, saving }) : noSaving(rest, '“1 free”, ')
}

const readFree: Reader = (store, text) => {
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
  const variant = findBySku(store.variant, of)
  return variant
    ? ok({ kind: 'free-goods', brackets, gift: { variant: variant.id }, repeats })
    : problem(`There is no SKU “${of}”. Write “buy 12: 1 free” for more of the same.`)
}

const readOrder: Reader = (_, text) => {
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

const readCharge: Reader = (_, text) => {
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

function noSaving(text: string, more = ''): ReadRule<ValueInput> {
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
