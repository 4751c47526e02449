import { negate, parseDecimal, type Decimal } from '../../decimal/decimal'
import type { PriceMethodInput } from './parse-breaks'
import type { PriceMethod, PriceReference } from './price-method'

const METHOD_TEXT = /^([+-])?(\d*\.?\d+)(%)?(?:(rrp|cost|base)|@(.+))?$/i

/**
 * A rule as it is typed: `-12%` and `+5%` are off and on the base price, `-0.60` and `+2` likewise by an
 * amount, `17.60` is a fixed amount. `rrp`, `cost` or `@` and a list's code behind it starts from that
 * instead (`-15% @club-level`); `cost +40%` is a markup on cost and `m35` a margin of the price.
 *
 * `findList` tells the id of a list by its code.
 *
 * Errors  `null` when it is none of these, or the list does not exist.
 * Holds   `parseMethodText(methodText(method))` is `method`.
 */
export function parseMethodText(
  text: string,
  findList: (code: string) => string | null = () => null,
): PriceMethodInput | null {
  const typed = text.replace(/\s+/g, '').replace('−', '-')
  const margin = /^m(-?\d*\.?\d+)%?$/i.exec(typed)
  if (margin?.[1] !== undefined) return { kind: 'margin', percent: margin[1] }
  const markup = /^cost([+-])(\d*\.?\d+)%$/i.exec(typed)
  if (markup?.[2] !== undefined)
    return { kind: 'markup', percent: markup[1] === '-' ? `-${markup[2]}` : markup[2] }

  const match = METHOD_TEXT.exec(typed)
  const value = match?.[2] === undefined ? null : parseDecimal(match[2])
  if (!match || value === null) return null
  const [, sign, , percent, word, code] = match
  const reference = readReference(word, code, findList)
  if (reference === null) return null
  const signed = sign === '-' ? negate(value) : value
  if (percent) return sign ? { kind: 'percent', percent: signed, reference } : null
  if (sign) return { kind: 'amount', amount: signed, reference }
  return word === undefined && code === undefined ? { kind: 'fixed', amount: value } : null
}

/** `codeOf` tells the code of a list by its id. */
export function methodText(method: PriceMethod, codeOf: (list: string) => string = (list) => list): string {
  switch (method.kind) {
    case 'fixed':
      return method.amount
    case 'margin':
      return `m${method.percent}`
    case 'markup':
      return `cost ${withSign(method.percent)}%`
    case 'percent':
      return `${withSign(method.percent)}%${referenceText(method.reference, codeOf)}`
    case 'amount':
      return `${withSign(method.amount)}${referenceText(method.reference, codeOf)}`
  }
}

function readReference(
  word: string | undefined,
  code: string | undefined,
  findList: (code: string) => string | null,
): PriceReference | null {
  if (code !== undefined) {
    const list = findList(code)
    return list === null ? null : { kind: 'list', list }
  }
  const named = word?.toLowerCase()
  if (named === 'rrp') return { kind: 'recommended' }
  return { kind: named === 'cost' ? 'cost' : 'base' }
}

function referenceText(reference: PriceReference, codeOf: (list: string) => string): string {
  switch (reference.kind) {
    case 'base':
      return ''
    case 'recommended':
      return ' rrp'
    case 'cost':
      return ' cost'
    case 'list':
      return ` @${codeOf(reference.list)}`
  }
}

function withSign(value: Decimal): string {
  return value.startsWith('-') ? value : `+${value}`
}
