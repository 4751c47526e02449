import 'server-only'

import type { Address, Person } from '@/core/buyers/buyer'
import type { OwnAmounts } from '@/core/catalogue/product'
import type { AdjustmentMethod } from '@/core/price/adjustment'
import { typedAmount } from '@/core/decimal/written-amount'
import { type FieldRule, partsOf } from './field-rule'

const AMOUNT_WORDS = { base: 'basePrice', cost: 'cost', rrp: 'recommendedPrice', floor: 'floor' } as const

/** Amounts set in other currencies: a line each, `GBP base=21.90 cost=11.20`. */
export const ownAmounts: FieldRule = {
  field: 'ownAmounts',
  name: 'Own amounts',
  hint: 'One currency a line: GBP base=21.90 cost=11.20 rrp=24.90 floor=15',
  control: 'own-amounts',
  options: (store) => [...store.currency.keys()].map((code) => ({ value: code, name: code })),
  write: (record) =>
    Object.entries(record['ownAmounts'] as OwnAmounts)
      .map(([code, amounts]) =>
        [
          code,
          ...Object.entries(AMOUNT_WORDS).flatMap(([word, field]) =>
            amounts[field] === null ? [] : [`${word}=${amounts[field]}`],
          ),
        ].join(' '),
      )
      .join('\n'),
  read: (text) => {
    const found: Record<string, Record<string, string | null>> = {}
    for (const line of partsOf(text, '\n')) {
      const [currencyCode = '', ...parts] = line.split(/\s+/)
      const amounts: Record<string, string | null> = {
        basePrice: null,
        cost: null,
        recommendedPrice: null,
        floor: null,
      }
      for (const part of parts) {
        const [word = '', amount = ''] = part.split('=')
        const field = AMOUNT_WORDS[word as keyof typeof AMOUNT_WORDS]
        if (!field)
          return { ok: false, problem: `“${part}” is no amount. Write base=21.90, cost=, rrp= or floor=.` }
        amounts[field] = typedAmount(amount) || null
      }
      found[currencyCode.toUpperCase()] = amounts
    }
    return { ok: true, value: { ownAmounts: found } }
  },
}

/** Who signs in for an account, one a line. */
export const people: FieldRule = {
  field: 'people',
  name: 'People',
  hint: 'One a line: name | e-mail address | “approves” or nothing | limit of an order, or nothing',
  control: 'on-sheet',
  write: (record) =>
    (record['people'] as readonly Person[])
      .map(({ name, email, approves, limit }) =>
        [name, email, approves ? 'approves' : '', limit ?? ''].join(' | '),
      )
      .join('\n'),
  read: (text) => ({
    ok: true,
    value: {
      people: partsOf(text, '\n').map((line) => {
        const [name = '', email = '', approves = '', limit = ''] = line.split('|').map((part) => part.trim())
        return {
          ...{ name, email: email.toLowerCase(), approves: approves.toLowerCase() === 'approves' },
          limit: limit === '' ? null : typedAmount(limit),
        }
      }),
    },
  }),
}

/** Places an account has things brought to, one a line. */
export const addresses: FieldRule = {
  field: 'addresses',
  name: 'Addresses',
  hint: 'One a line: label | street | postcode | city | state | country',
  control: 'on-sheet',
  write: (record) =>
    (record['addresses'] as readonly Address[])
      .map(({ label, street, postcode, city, state, country }) =>
        [label, street, postcode, city, state, country].join(' | '),
      )
      .join('\n'),
  read: (text) => ({
    ok: true,
    value: {
      addresses: partsOf(text, '\n').map((line) => {
        const [label = '', street = '', postcode = '', city = '', state = '', country = ''] = line
          .split('|')
          .map((part) => part.trim())
        return { label, street, postcode, city, state, country: country.toUpperCase() }
      }),
    },
  }),
}

/** "10 % less" and "+ 4,5 %" as `-10%` and `+4.5%`. */
function spokenMethod(text: string): string {
  const typed = text.trim().toLowerCase()
  const sign = /\b(less|off|down)$/.test(typed) ? '-' : /\b(more|on|up)$/.test(typed) ? '+' : ''
  const bare = typed.replace(/\s*\b(less|off|down|more|on|up)$/, '').replace('−', '-')
  const percent = /%$/.test(bare) ? '%' : ''
  return `${sign}${typedAmount(bare.replace(/\s*%$/, '')).replace(/\s+/g, '')}${percent}`
}

export const adjustmentMethod: FieldRule = {
  field: 'method',
  name: 'Moves prices by',
  hint: '-10% or +4%, or an amount in the store’s currency such as -2 or +0.50.',
  control: 'text',
  write: (record) => {
    const method = record['method'] as AdjustmentMethod
    const value = method.kind === 'percent' ? method.percent : method.amount
    return `${value.startsWith('-') ? '' : '+'}${value}${method.kind === 'percent' ? '%' : ''}`
  },
  read: (text) => {
    const match = /^([+-]?)(\d*\.?\d+)(%)?$/.exec(spokenMethod(text))
    if (!match) return { ok: false, problem: `“${text}” moves nothing. Type -10%, +4%, -2 or +0.50.` }
    if (!match[1])
      return { ok: false, problem: `Does “${text}” raise or lower prices? Type +${text} or -${text}.` }
    const value = `${match[1] === '-' ? '-' : ''}${match[2]}`
    return {
      ok: true,
      value: {
        method: match[3] ? { kind: 'percent', percent: value } : { kind: 'amount', amount: value },
      },
    }
  },
}
