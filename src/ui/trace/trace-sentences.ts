import type { Decimal } from '@/core/decimal/decimal'
import type { RoundingRule } from '@/core/decimal/rounding'
import type {
  IdleAdjustment,
  LineReference,
  LossReason,
  RateUsed,
  TraceStep,
} from '@/core/engine/explain/trace'
import type { ReferenceField } from '@/core/catalogue/product'
import type { WhatTerm } from '@/core/predicates/what'
import type { Rung } from '@/core/price/ladder'
import { priceDigitsOf, type Store } from '@/core/store/store'
import { capital } from '@/ui/format/capital'
import { formatMoney, formatPercent } from '@/ui/format/amount'
import {
  localPhrase,
  methodPhrase,
  referencePhrase,
  roundingPhrase,
  whatPhrase,
  whoPhrase,
} from '@/ui/format/rule-phrases'
import type { TracePart } from './trace-part'
import { recordHref } from '@/ui/frame/record-href'

/** Turns the data of a trace into what a merchant would say. */
export interface Wording {
  readonly store: Store
  readonly buyerName: string
  /** Of the price asked about. */
  readonly currency: string
}

export function listPart({ store }: Wording, list: string): TracePart {
  const found = store['price-list'].get(list)
  return found ? { text: found.name, href: recordHref('price-lists', found.code) } : { text: list }
}

function contractPart({ store }: Wording, contract: string): TracePart {
  const found = store.contract.get(contract)
  return found
    ? { text: `contract ${found.code}`, href: recordHref('contracts', found.code) }
    : { text: `contract ${contract}` }
}

function adjustmentPart({ store }: Wording, adjustment: string): TracePart {
  const found = store.adjustment.get(adjustment)
  return found ? { text: found.name, href: recordHref('adjustments', found.code) } : { text: adjustment }
}

/** A candidate by name: the list, and which of its lines where that is the question. */
export function candidateParts(
  wording: Wording,
  at: LineReference,
  reason: LossReason,
): readonly TracePart[] {
  const list = listPart(wording, at.list)
  if (!OF_A_LINE.has(reason.code)) return [list]
  const line = at.line === null ? undefined : wording.store['price-line'].get(at.line)
  const scope = line
    ? line.scope.include.map((term) => whatPhrase(term, wording.store)).join(', ')
    : 'all other items'
  return [list, { text: `for ${scope}:` }]
}

const OF_A_LINE: ReadonlySet<LossReason['code']> = new Set([
  'less-specific-line',
  'later-line',
  'below-first-break',
  'line-not-now',
  'no-reference',
])

const FIELD_NAMES: Readonly<Record<ReferenceField, string>> = {
  basePrice: 'Base price',
  cost: 'Cost',
  recommendedPrice: 'Recommended price',
  floor: 'Floor',
}

/** What a step did, as the words behind its name. */
export function stepParts(wording: Wording, step: TraceStep, productHref: string): readonly TracePart[] {
  switch (step.kind) {
    case 'reference':
      return [
        { text: FIELD_NAMES[step.field], href: productHref },
        { text: `${step.isOwn ? `in ${step.currency} ` : ''}${SET_ON[step.from]}` },
      ]
    case 'list-reference':
      return [listPart(wording, step.list), { text: 'as this list starts from it' }]
    case 'adjustments':
      if (step.applied.length === 0)
        return [{ text: 'Adjustments left out: nothing would remain of the price' }]
      return step.applied.flatMap(({ adjustment, method }) => [
        adjustmentPart(wording, adjustment),
        {
          text:
            method.kind === 'percent'
              ? signedPercent(method.percent)
              : `${method.amount.startsWith('-') ? '' : '+'}${money(wording)(method.amount)}`,
        },
      ])
    case 'line':
      return [
        listPart(wording, step.at.list),
        { text: linePhrase(wording, step) },
        ...(step.contract === null ? [] : [{ text: 'through' }, contractPart(wording, step.contract)]),
      ]
    case 'rounding':
      return [{ text: roundingWords(step.rule) }]
    case 'basis':
      return [{ text: `${step.basis === 'gross' ? 'With' : 'Without'} ${formatPercent(step.percent)} tax` }]
    case 'brackets': {
      const each = step.brackets.map(
        ({ quantity, unit }) =>
          `${quantity} at ${formatMoney(unit, step.currency, digitsOf(wording, step.currency))}`,
      )
      return [{ text: `On average: ${each.join(', ')}` }]
    }
    case 'conversion':
      return [
        { text: `Into ${step.currency}`, href: '/currencies' },
        {
          text: `${step.rates.map((rate) => rateWords(rate)).join(', ')}${step.fee === '0' ? '' : `, ${step.fee} % fee`}`,
        },
      ]
    case 'too-large':
      return [{ text: 'More than can be held exactly, so there is no price' }]
    case 'public-price':
      return [{ text: 'Never above what guests pay' }]
    case 'floor':
      return [{ text: 'Floor', href: productHref }, { text: 'never sold below' }]
    case 'settled':
      return step.by.kind === 'quote'
        ? [{ text: `Quote ${step.by.quote}`, href: `/quotes/${step.by.quote}` }, { text: 'agreed' }]
        : [{ text: `Set by ${step.by.author}: ${step.by.reason}` }]
  }
}

const SET_ON = {
  product: 'set on the product',
  variant: 'set on this variant',
  extra: 'set on the extra',
} as const

function rateWords({ per, currency, value, from, isStale }: RateUsed): string {
  const day = localPhrase(`${from.slice(0, 10)}T00:00`)
  return `1 ${per} = ${value} ${currency} since ${day}${isStale ? ' (older than its limit)' : ''}`
}

function signedPercent(percent: Decimal): string {
  return percent.startsWith('-') ? formatPercent(percent) : `+${formatPercent(percent)}`
}

function linePhrase(wording: Wording, step: Extract<TraceStep, { kind: 'line' }>): string {
  const method = methodPhrase(
    step.method,
    (amount) => formatMoney(amount, step.currency, digitsOf(wording, step.currency)),
    (list) => listPart(wording, list).text,
  )
  const reached = step.reached
    ? step.reached.from === '0'
      ? ' below the first break'
      : ` from ${step.reached.from}${COUNTED[step.reached.counting]}`
    : ''
  return step.scope === null
    ? `${method}${reached}, its price for all other items`
    : `${method}${reached}${scopeWords(wording, step.scope)}`
}

const COUNTED = {
  variant: ' on',
  product: ' on, all variants counted',
  line: ' on, everything counted together',
} as const

function scopeWords({ store }: Wording, scope: WhatTerm): string {
  if (scope.kind === 'everything') return ' for everything'
  if (scope.kind === 'variant') return ' for this variant'
  if (scope.kind === 'product') return ' for this product'
  return ` for ${whatPhrase(scope, store)}`
}

function roundingWords(rule: RoundingRule): string {
  return capital(roundingPhrase(rule))
}

const RUNG_NAMES: Readonly<Record<Rung, string>> = {
  contract: 'lists of a contract',
  account: 'the account’s own lists',
  group: 'lists for their group',
  'signed-in': 'lists for signed-in buyers and guests',
  everyone: 'lists for everyone',
}

const NOT_NOW = {
  'not-yet': (from: string | null) => `starts ${from === null ? 'later' : localPhrase(from)}`,
  over: (_from: string | null, to: string | null) => `ended ${to === null ? 'already' : localPhrase(to)}`,
  'other-month': () => 'is not for this month',
  'other-weekday': () => 'is not for this day of the week',
  'other-hours': () => 'is not for this time of day',
} as const

const STANDING = {
  draft: () => 'is a draft still',
  suspended: () => 'is suspended',
  ended: () => 'has been ended',
  'not-yet': (from: string | null) => `starts ${from === null ? 'later' : localPhrase(from)}`,
  over: (_from: string | null, to: string | null) => `ended ${to === null ? 'already' : localPhrase(to)}`,
} as const

/** Why a candidate did not decide. */
export function lossSentence(wording: Wording, reason: LossReason): string {
  const { store, buyerName } = wording
  switch (reason.code) {
    case 'off':
      return 'is switched off'
    case 'archived':
      return 'is archived'
    case 'not-for-buyer':
      return reason.match.because === 'excluded'
        ? `leaves out ${whoPhrase(reason.match.by, store)}`
        : `is not for ${buyerName}`
    case 'not-here':
      return reason.match.because === 'other-channel' ? 'is for another channel' : 'is for other places'
    case 'not-now':
      return NOT_NOW[reason.because](reason.from, reason.to)
    case 'line-not-now':
      return `this line ${NOT_NOW[reason.because](reason.from, reason.to)}`
    case 'contract':
      return `its ${contractPart(wording, reason.contract).text} ${STANDING[reason.standing](reason.from, reason.to)}`
    case 'outside-scope':
      return 'is for another part of the catalogue'
    case 'no-line':
      return 'has no price for this item'
    case 'excluded-item':
      return `leaves out ${whatPhrase(reason.by, store)}`
    case 'below-first-break':
      return `needs ${reason.from}, here are ${reason.counted}`
    case 'no-reference':
      return `starts from ${referencePhrase(reason.reference, (list) => listPart(wording, list).text)}, and there is none`
    case 'no-rate':
      return `is in ${reason.from}, and there is no rate into ${reason.to}`
    case 'less-specific-line':
      return 'a line that names this more closely comes first'
    case 'later-line':
      return 'a line as close stands above it in the list'
    case 'not-above-zero':
      return 'would not come to anything above zero'
    case 'lower-rung':
      return `${RUNG_NAMES[reason.winner]} come before ${RUNG_NAMES[reason.rung]}`
    case 'later-contract':
      return `its contract has rank ${reason.rank}, the deciding one has rank ${reason.winner}`
    case 'later-in-contract':
      return `stands in place ${reason.place} of its contract, the deciding list in place ${reason.winner}`
    case 'later-rank':
      return `has rank ${reason.rank}, the deciding list has rank ${reason.winner}`
    case 'foreign-currency':
      return `is in ${reason.currency}; a list in ${reason.winner} comes first`
    case 'less-specific-list':
      return 'has the same rank, but the other list names this more closely'
    case 'earlier-start':
      return 'has the same rank; the other list started later'
    case 'later-code':
      return 'is equal in everything; its code comes later'
    case 'not-lowest':
      return `is not the lowest; that is ${money(wording)(reason.winner)}`
  }
}

/** Why an adjustment moved nothing. */
export function idleSentence(wording: Wording, { reason }: IdleAdjustment): string {
  switch (reason.code) {
    case 'not-for-item':
      return 'is not for this item'
    case 'protected':
      return `leaves prices of ${contractPart(wording, reason.contract).text} alone`
    case 'nothing-left':
      return 'would bring the price to zero or below, so it is left out'
    case 'not-from-base':
      return 'moves the base price, and this price does not start from it'
    default:
      return lossSentence(wording, reason)
  }
}

export function idlePart(wording: Wording, { adjustment }: IdleAdjustment): TracePart {
  return adjustmentPart(wording, adjustment)
}

function digitsOf({ store }: Wording, currency: string): number {
  return priceDigitsOf(store, currency)
}

function money(wording: Wording): (amount: Decimal) => string {
  return (amount) => formatMoney(amount, wording.currency, digitsOf(wording, wording.currency))
}
