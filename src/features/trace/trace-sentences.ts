import type { Decimal } from '@/core/decimal/decimal'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { LineReference, LossReason, TraceStep } from '@/core/engine/trace'
import type { WhatTerm } from '@/core/predicates/what'
import type { Rung } from '@/core/price/ladder'
import { getSettings, type Store } from '@/core/store/store'
import { formatMoney } from '@/ui/format/amount'
import { methodPhrase, roundingPhrase, whatPhrase, whoPhrase } from '@/ui/format/rule-phrases'
import type { TracePart } from './trace-view'

/** Turns the data of a trace into what a merchant would say. */
export interface Wording {
  readonly store: Store
  readonly buyerName: string
}

export function listPart({ store }: Wording, list: string): TracePart {
  const found = store['price-list'].get(list)
  return found ? { text: found.name, href: `/price-lists/${found.code}` } : { text: list }
}

/** A candidate by name: the list, and which of its lines where that is the question. */
export function candidateParts(
  wording: Wording,
  at: LineReference,
  reason: LossReason,
): readonly TracePart[] {
  const list = listPart(wording, at.list)
  if (reason.code !== 'less-specific-line' && reason.code !== 'later-line') return [list]
  const line = at.line === null ? undefined : wording.store['price-line'].get(at.line)
  const scope = line
    ? line.scope.include.map((term) => whatPhrase(term, wording.store)).join(', ')
    : 'everything else'
  return [list, { text: `for ${scope}:` }]
}

/** What a step did, as the words behind its name. */
export function stepParts(wording: Wording, step: TraceStep, productHref: string): readonly TracePart[] {
  switch (step.kind) {
    case 'base':
      return [
        { text: 'Base price', href: productHref },
        { text: step.from === 'variant' ? 'set on this variant' : 'set on the product' },
      ]
    case 'line':
      return [listPart(wording, step.at.list), { text: linePhrase(wording, step) }]
    case 'rounding':
      return [{ text: roundingWords(step.rule) }]
  }
}

function linePhrase(wording: Wording, step: Extract<TraceStep, { kind: 'line' }>): string {
  const method = methodPhrase(step.method, money(wording))
  return step.scope === null
    ? `${method}, its price for everything else`
    : `${method}${scopeWords(wording, step.scope)}`
}

function scopeWords({ store }: Wording, scope: WhatTerm): string {
  if (scope.kind === 'everything') return ' for everything'
  if (scope.kind === 'variant') return ' for this variant'
  if (scope.kind === 'product') return ' for this product'
  return ` for ${whatPhrase(scope, store)}`
}

function roundingWords(rule: RoundingRule): string {
  const phrase = roundingPhrase(rule)
  return phrase.charAt(0).toUpperCase() + phrase.slice(1)
}

const RUNG_NAMES: Readonly<Record<Rung, string>> = {
  account: 'the account’s own lists',
  group: 'lists for their group',
  'signed-in': 'lists for who is signed in or not',
  everyone: 'lists for everyone',
}

/** Why a candidate did not decide. */
export function lossSentence(wording: Wording, reason: LossReason): string {
  const { store, buyerName } = wording
  switch (reason.code) {
    case 'off':
      return 'is switched off'
    case 'not-for-buyer':
      return reason.match.because === 'excluded'
        ? `leaves out ${whoPhrase(reason.match.by, store)}`
        : `is not for ${buyerName}`
    case 'no-line':
      return 'says nothing about this'
    case 'excluded-item':
      return `leaves out ${whatPhrase(reason.by, store)}`
    case 'less-specific-line':
      return 'a line that names this more closely comes first'
    case 'later-line':
      return 'a line as close stands above it in the list'
    case 'no-base-price':
      return 'needs a base price, and there is none'
    case 'not-above-zero':
      return `would come to ${money(wording)(reason.amount)}, which is not above zero`
    case 'lower-rung':
      return `${RUNG_NAMES[reason.winner]} come before ${RUNG_NAMES[reason.rung]}`
    case 'later-rank':
      return `has rank ${reason.rank}, the deciding list has rank ${reason.winner}`
    case 'less-specific-list':
      return 'has the same rank, but the other list names this more closely'
    case 'later-code':
      return 'is equal in everything; its code comes later'
  }
}

function money({ store }: Wording): (amount: Decimal) => string {
  const { currency, priceDigits } = getSettings(store)
  return (amount) => formatMoney(amount, currency, priceDigits)
}
