import type { AccessRule, Passcode } from '@/core/access/access'
import type { LimitRuleInput } from '@/core/limits/parse-limit'
import type { WhatTerm } from '@/core/predicates/what'
import type { WhoTerm } from '@/core/predicates/who'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import type { TaxRateInput } from '@/core/tax/parse-tax'
import type { Tax, TaxClass } from '@/core/tax/tax'

const taxClass = (code: string, name: string, position: number): TaxClass => ({
  ...RECORD_DEFAULTS['tax-class'],
  id: `tax-class-${code}`,
  code,
  name,
  position,
})

export const DEMO_TAX_CLASSES: readonly TaxClass[] = [
  taxClass('standard', 'Standard', 0),
  taxClass('reduced', 'Reduced', 1),
  taxClass('books', 'Books', 2),
]

const tax = (code: string, name: string, position: number, more: Partial<Tax> = {}): Tax => ({
  ...RECORD_DEFAULTS.tax,
  id: `tax-${code}`,
  code,
  name,
  position,
  ...more,
})

export const DEMO_TAXES: readonly Tax[] = [
  tax('vat', 'VAT', 0),
  tax('state', 'State sales tax', 1, { onDelivery: false }),
  tax('city', 'City tax', 2, { onDelivery: false }),
]

/** Figures of the made-up merchant's world, not those of any authority. */
const VAT: readonly (readonly [country: string, standard: string, reduced: string, books: string])[] = [
  ['IE', '23', '13.5', '0'],
  ['FR', '20', '10', '5.5'],
  ['DE', '19', '7', '7'],
  ['AT', '20', '10', '10'],
  ['IT', '22', '10', '4'],
  ['NL', '21', '9', '9'],
  ['PT', '23', '13', '6'],
  ['GB', '20', '5', '0'],
  ['NO', '25', '15', '0'],
  ['DK', '25', '25', '25'],
]

const CLASS_ORDER = ['standard', 'reduced', 'books'] as const

const rate = (
  id: string,
  fields: Partial<TaxRateInput> & Pick<TaxRateInput, 'tax' | 'percent'>,
): TaxRateInput => ({
  ...RECORD_DEFAULTS['tax-rate'],
  id: `rate-${id}`,
  ...fields,
})

export const DEMO_TAX_RATES: readonly TaxRateInput[] = [
  ...VAT.flatMap(([country, ...percents]) =>
    CLASS_ORDER.map((code, at) =>
      rate(`${country}-${code}`, {
        tax: 'tax-vat',
        taxClass: `tax-class-${code}`,
        country,
        percent: percents[at] as string,
      }),
    ),
  ),
  rate('US-VT', { tax: 'tax-state', country: 'US', state: 'VT', percent: '6' }),
  rate('US-CA', { tax: 'tax-state', country: 'US', state: 'CA', percent: '7.25' }),
  rate('US-CA-oakfell', { tax: 'tax-city', country: 'US', state: 'CA', city: 'Oakfell', percent: '1.5' }),
  rate('US-CA-95', { tax: 'tax-city', country: 'US', state: 'CA', postcode: '95200-95299', percent: '0.75' }),
]

const scope = (...include: readonly WhatTerm[]) => ({ include, exclude: [] })
const branch = (code: string): WhatTerm => ({
  kind: 'category',
  category: `category-${code}`,
  descendants: true,
})
const audience = (...include: readonly WhoTerm[]) => ({ include, exclude: [] })

const limit = (code: string, name: string, fields: Partial<LimitRuleInput>): LimitRuleInput => ({
  ...RECORD_DEFAULTS.limit,
  id: `limit-${code}`,
  code,
  name,
  ...fields,
})

export const DEMO_LIMITS: readonly LimitRuleInput[] = [
  limit('buckets-by-the-stack', 'Buckets by the stack', {
    scope: scope(branch('buckets')),
    multiple: '12',
    first: '12',
    message: 'Buckets come in stacks of 12.',
  }),
  limit('queens', 'Queens for everybody', {
    scope: scope(branch('mated-queens')),
    audience: { include: [{ kind: 'everyone' }], exclude: [{ kind: 'trade' }] },
    maximum: '3',
    days: 30,
    message: 'At most 3 queens in 30 days, so that there are enough for everyone.',
  }),
  limit('trade-order', 'Smallest trade order', {
    audience: audience({ kind: 'trade' }),
    counting: 'together',
    minimumValue: '60',
    message: 'The smallest trade order is €60.00 without tax.',
  }),
  limit('parcel', 'What a van takes', {
    counting: 'together',
    maximumWeight: '900',
    message: 'One van carries 900 kg. Please place two orders.',
  }),
]

const rule = (
  code: string,
  name: string,
  fields: Partial<AccessRule> & Pick<AccessRule, 'effect'>,
): AccessRule => ({
  ...RECORD_DEFAULTS['access-rule'],
  id: `access-${code}`,
  code,
  name,
  ...fields,
})

export const DEMO_ACCESS_RULES: readonly AccessRule[] = [
  rule('nuclei-by-quote', 'Colonies by quote', {
    effect: 'quote',
    audience: audience({ kind: 'guests' }),
    scope: scope(branch('nuclei')),
  }),
  rule('trade-by-quote', 'Trade may ask for quotes', {
    effect: 'buy-or-quote',
    audience: audience({ kind: 'trade' }),
  }),
  rule('treatments-signed-in', 'Treatments when signed in', {
    effect: 'no-buying',
    audience: audience({ kind: 'guests' }),
    scope: scope(branch('treatments')),
    landing: 'sign-in',
    message: 'Treatments are sold to buyers we know. Sign in to buy them.',
  }),
]

export const DEMO_PASSCODES: readonly Passcode[] = [
  {
    ...RECORD_DEFAULTS.passcode,
    id: 'passcode-open-day',
    code: 'open-day',
    name: 'Spring open day',
    word: 'first-swarm',
    from: '2027-04-01T00:00',
    to: '2027-05-01T00:00',
  },
  {
    ...RECORD_DEFAULTS.passcode,
    id: 'passcode-press',
    code: 'press',
    name: 'Press and reviewers',
    word: 'look-inside',
    isReview: true,
  },
]
