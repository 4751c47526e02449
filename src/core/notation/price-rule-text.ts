import { negate, parseDecimal } from '../decimal/decimal'
import { parseMethodText } from '../price/lines/method-text'
import type { BreaksInput, PriceMethodInput } from '../price/lines/parse-breaks'
import type { Breaks, PriceMethod, PriceReference } from '../price/lines/price-method'
import { typedAmount } from '../decimal/written-amount'
import { findNamed, labelsOf } from './named-text'

/** What is needed of a store to call its price lists by their names. */
export interface NamedLists {
  readonly 'price-list': ReadonlyMap<
    string,
    { readonly id: string; readonly code: string; readonly name: string }
  >
}

const COUNTING = { product: 'counting all variants', line: 'counting the whole line' } as const
const GRADUATED = 'each bracket at its own price'
const REFERENCES = { base: 'base', recommended: 'recommended price', cost: 'cost' } as const

/**
 * A price rule as it is spoken: `15 % off base`, `fixed 17.60`, `cost plus 40 %`, `margin 35 %`,
 * `12 % off Club level; from 10: 15 % off Club level; counting all variants`.
 *
 * Holds   `readPriceRule(writePriceRule(breaks))` is `breaks`.
 */
export function writePriceRule(store: NamedLists, { breaks, counting, pricing }: Breaks): string {
  const parts = breaks.map(({ from, method }) => {
    const words = writeMethod(store, method)
    return from === '0' ? words : `from ${from}: ${words}`
  })
  return [
    ...parts,
    ...(counting === 'variant' ? [] : [COUNTING[counting]]),
    ...(pricing === 'graduated' ? [GRADUATED] : []),
  ].join('; ')
}

/** One method as it is spoken. */
function writeMethod(store: NamedLists, method: PriceMethod): string {
  switch (method.kind) {
    case 'fixed':
      return `fixed ${method.amount}`
    case 'margin':
      return `margin ${method.percent} %`
    case 'markup':
      return method.percent.startsWith('-')
        ? `cost minus ${method.percent.slice(1)} %`
        : `cost plus ${method.percent} %`
    case 'percent':
      return `${offOrOn(method.percent, ' %')} ${writeReference(store, method.reference)}`
    case 'amount':
      return `${offOrOn(method.amount, '')} ${writeReference(store, method.reference)}`
  }
}

function offOrOn(value: string, unit: string): string {
  return value.startsWith('-') ? `${value.slice(1)}${unit} off` : `${value}${unit} on`
}

function writeReference(store: NamedLists, reference: PriceReference): string {
  if (reference.kind !== 'list') return REFERENCES[reference.kind]
  const labels = labelsOf(store['price-list'], reference.list)
  const reads = (label: string) =>
    !/[;[\]]/.test(label) &&
    readReference(store, label)?.kind === 'list' &&
    findNamed(store['price-list'], label)?.id === reference.list
  return labels.find(reads) ?? labels.at(-1) ?? reference.list
}

export type ReadPriceRule =
  | { readonly ok: true; readonly value: BreaksInput }
  /** The part that was not understood, and the price list it names where that is what is missing. */
  | { readonly ok: false; readonly part: string; readonly list: string | null }

/**
 * Reads a rule as it is spoken or in its short form (`-15%`, `10: -18%`, `m35`). A bare percentage of a later quantity
 * (`from 10: 18 %`) is taken off or on what the one before it is.
 */
export function readPriceRule(store: NamedLists, text: string): ReadPriceRule {
  const breaks: { from: string; method: PriceMethodInput }[] = []
  let counting: Breaks['counting'] = 'variant'
  let pricing: Breaks['pricing'] = 'all-units'
  const bare = text
    .replace(/\[\s*all variants\s*\]/i, `; ${COUNTING.product}`)
    .replace(/\[\s*together\s*\]/i, `; ${COUNTING.line}`)
    .replace(/\[\s*each bracket\s*\]/i, `; ${GRADUATED}`)
  for (const part of bare.split(';').map((each) => each.trim())) {
    const lower = part.toLowerCase()
    if (lower === '' && breaks.length > 0) continue
    if (/^counting (all variants|the product|each product)$/.test(lower)) counting = 'product'
    else if (/^counting (the whole line|everything|all of it|together)$/.test(lower)) counting = 'line'
    else if (/^counting each variant$/.test(lower)) counting = 'variant'
    else if (/^each bracket/.test(lower)) pricing = 'graduated'
    else {
      const [, spoken, short, rule = ''] =
        /^(?:from\s+([\d.,]+)(?:\s+on)?\s*:?|([\d.,]+)\s*:)?\s*(.*)$/i.exec(part) ?? []
      const method = readMethod(store, rule, breaks.at(-1)?.method ?? null)
      if (!method) return { ok: false, part, list: missingList(store, rule) }
      breaks.push({ from: typedAmount(spoken ?? short ?? '0'), method })
    }
  }
  if (breaks.length === 0) return { ok: false, part: text.trim(), list: null }
  return { ok: true, value: { breaks, counting, pricing } }
}

function readMethod(
  store: NamedLists,
  text: string,
  before: PriceMethodInput | null,
): PriceMethodInput | null {
  const typed = text.trim().replace('−', '-')
  const fixed = /^(?:fixed(?:\s+at)?)\s+(.+)$/i.exec(typed)?.[1]
  if (fixed !== undefined) {
    const amount = parseDecimal(typedAmount(fixed))
    return amount === null ? null : { kind: 'fixed', amount }
  }
  const margin = /^(?:(?:cost at )?(?:a )?margin(?: of)?)\s+(-?[\d.,]+)\s*%?$/i.exec(typed)?.[1]
  if (margin !== undefined) return { kind: 'margin', percent: typedAmount(margin) }
  const markup = /^cost\s+(plus|minus|\+|-)\s*([\d.,]+)\s*%$/i.exec(typed)
  if (markup?.[2] !== undefined) {
    const isLess = markup[1] === 'minus' || markup[1] === '-'
    return { kind: 'markup', percent: `${isLess ? '-' : ''}${typedAmount(markup[2])}` }
  }
  const [, size, percent, side, rest] = /^([\d.,]+)\s*(%)?\s+(off|on)(?:\s+(.+))?$/i.exec(typed) ?? []
  if (size !== undefined && side !== undefined) {
    const value = parseDecimal(typedAmount(size))
    const reference = rest === undefined ? referenceOfInput(before) : readReference(store, rest)
    if (value === null || reference === null) return null
    const signed = side.toLowerCase() === 'off' ? negate(value) : value
    return percent
      ? { kind: 'percent', percent: signed, reference }
      : { kind: 'amount', amount: signed, reference }
  }
  const again = /^([\d.,]+)\s*%$/.exec(typed)?.[1]
  if (again !== undefined && before?.kind === 'percent') {
    const value = parseDecimal(typedAmount(again))
    if (value === null) return null
    return { ...before, percent: before.percent.startsWith('-') ? negate(value) : value }
  }
  return parseMethodText(
    typed.replace(/(\d),(\d)/g, '$1.$2'),
    (name) => findList(store, name, typed)?.id ?? null,
  )
}

/** The short form takes blanks out of what is typed, so that a name is found as it stands behind its `@`. */
function findList(store: NamedLists, name: string, typed: string) {
  const written = typed.slice(typed.indexOf('@') + 1).trim()
  return findNamed(store['price-list'], written) ?? findNamed(store['price-list'], name)
}

function referenceOfInput(before: PriceMethodInput | null): PriceReference {
  return before?.kind === 'percent' || before?.kind === 'amount' ? before.reference : { kind: 'base' }
}

function readReference(store: NamedLists, text: string): PriceReference | null {
  const words = text.trim().toLowerCase().replace(/^the /, '')
  if (/^base( prices?)?$/.test(words)) return { kind: 'base' }
  if (/^(rrp|recommended( retail)?( prices?)?)$/.test(words)) return { kind: 'recommended' }
  if (words === 'cost') return { kind: 'cost' }
  const list = findNamed(store['price-list'], text.trim().replace(/^@/, ''))
  return list && { kind: 'list', list: list.id }
}

/** The price list a rule names that is none. */
function missingList(store: NamedLists, rule: string): string | null {
  const named = /(?:@\s*|\b(?:off|on)\s+)([^;[\]]+)$/i.exec(rule)?.[1]?.trim()
  return named === undefined || readReference(store, named) !== null ? null : named
}
