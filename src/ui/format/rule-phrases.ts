import type { Decimal } from '@/core/decimal/decimal'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { UnnamedTerm, What, WhatTerm } from '@/core/predicates/what'
import type { DailyWindow, Schedule } from '@/core/predicates/when'
import type { Where, WhereTerm } from '@/core/predicates/where'
import type { Who, WhoTerm } from '@/core/predicates/who'
import {
  type Breaks,
  onlyMethod,
  type PriceMethod,
  type PriceReference,
} from '@/core/price/lines/price-method'
import type { Store } from '@/core/store/store'

/** What of the store is needed to call things by their names. */
type Names = Store

/** A buyer term as words: "Bee farms", "all trade groups". */
export function whoPhrase(term: WhoTerm, store: Names): string {
  switch (term.kind) {
    case 'everyone':
      return 'everyone'
    case 'guests':
      return 'guests'
    case 'signed-in':
      return 'everyone signed in'
    case 'trade':
      return 'all trade groups'
    case 'group':
      return store.group.get(term.group)?.name ?? term.group
    case 'tag':
      return `accounts tagged “${term.tag}”`
    case 'passcode':
      return `whoever has the passcode ${store.passcode.get(term.passcode)?.name ?? term.passcode}`
    case 'email':
      return term.email
    case 'account':
      return store.account.get(term.account)?.name ?? term.account
  }
}

/** An item term that names no record, as words. */
export function unnamedPhrase(term: UnnamedTerm): string {
  switch (term.kind) {
    case 'everything':
      return 'everything'
    case 'price-range':
      if (term.from === null) return `base prices below ${term.to ?? 'any'}`
      return term.to === null
        ? `base prices from ${term.from}`
        : `base prices from ${term.from} to below ${term.to}`
    case 'stock':
      return term.state === 'in-stock' ? 'what is in stock' : 'what is out of stock'
  }
}

/** An item term as words: "Frames", "Brood frames FR-BR-PF", "Fabric mesh". */
export function whatPhrase(term: WhatTerm, store: Names): string {
  switch (term.kind) {
    case 'everything':
    case 'price-range':
    case 'stock':
      return unnamedPhrase(term)
    case 'category': {
      const name = store.category.get(term.category)?.name ?? term.category
      return term.descendants ? name : `${name}, not below`
    }
    case 'family':
      return `the price family ${store['price-family'].get(term.family)?.name ?? term.family}`
    case 'attribute':
      return `${term.name} ${term.value}`
    case 'product': {
      const product = store.product.get(term.product)
      return product ? product.name : term.product
    }
    case 'variant': {
      const variant = store.variant.get(term.variant)
      const product = variant && store.product.get(variant.product)
      return variant && product ? `${product.name} ${variant.sku}` : term.variant
    }
    case 'extra':
      return `the extra ${store.extra.get(term.extra)?.name ?? term.extra}`
  }
}

function wherePart(term: WhereTerm, store: Names): string {
  switch (term.kind) {
    case 'channel':
      return store.channel.get(term.channel)?.name ?? term.channel
    case 'channel-group':
      return `channels of ${term.group}`
    case 'region':
      return store.region.get(term.region)?.name ?? term.region
  }
}

/** An audience as one phrase; "nobody by itself" when only contracts lead to it. */
export function whoSentence({ include, exclude }: Who, store: Names): string {
  if (include.length === 0) return 'nobody by itself'
  return butNot(
    include.map((term) => whoPhrase(term, store)),
    exclude.map((term) => whoPhrase(term, store)),
  )
}

export function whatSentence({ include, exclude }: What, store: Names): string {
  return butNot(
    include.map((term) => whatPhrase(term, store)),
    exclude.map((term) => whatPhrase(term, store)),
  )
}

export function whereSentence({ include, exclude }: Where, store: Names): string {
  const words = include.map((term) => wherePart(term, store))
  return butNot(
    words.length > 0 ? words : ['everywhere'],
    exclude.map((term) => wherePart(term, store)),
  )
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

/** A schedule as one phrase: "from 1 Mar 2027 to 31 May 2027, Mon and Tue, 17:00–19:00". */
export function whenSentence(schedule: Schedule): string {
  const parts = [windowPhrase(schedule.from, schedule.to)]
  if (schedule.months.length > 0)
    parts.push(`in ${namesInWords(schedule.months.map((month) => MONTHS[month - 1] ?? ''))}`)
  if (schedule.weekdays.length > 0)
    parts.push(namesInWords(schedule.weekdays.map((day) => DAYS[day - 1] ?? '')))
  if (schedule.hours) parts.push(hoursPhrase(schedule.hours))
  for (const [day, window] of Object.entries(schedule.overrides))
    parts.push(`${DAYS[Number(day) - 1]} ${window ? hoursPhrase(window) : 'closed'}`)
  return parts.filter((part) => part !== '').join(', ') || 'always'
}

/** "from 1 Mar 2027 to 31 May 2027": an end at midnight is the day before, the last one that counts. */
function windowPhrase(from: string | null, to: string | null): string {
  const start = from === null ? '' : `from ${localPhrase(from)}`
  const end = to === null ? '' : `${from === null ? 'until' : 'to'} ${lastDayPhrase(to)}`
  return [start, end].filter((part) => part !== '').join(' ')
}

/** The same in a table: "1 Apr 2026 – 31 Mar 2027". */
export function spanPhrase(from: string | null, to: string | null): string {
  if (from === null && to === null) return 'open'
  return `${from === null ? '' : localPhrase(from)} – ${to === null ? '' : lastDayPhrase(to)}`.trim()
}

/** A local date and time of the store as people write it; midnight goes without saying. */
export function localPhrase(local: string): string {
  const [date = '', time = '00:00'] = local.split('T')
  const [year = '', month = '1', day = ''] = date.split('-')
  const text = `${Number(day)} ${MONTHS[Number(month) - 1]} ${year}`
  return time === '00:00' ? text : `${text}, ${time}`
}

function lastDayPhrase(to: string): string {
  if (!to.endsWith('T00:00')) return localPhrase(to)
  const before = new Date(Date.parse(`${to}Z`) - 86_400_000)
  return localPhrase(`${before.toISOString().slice(0, 10)}T00:00`)
}

function hoursPhrase({ from, to }: DailyWindow): string {
  return `${from}–${to}`
}

/** A method as words: "12 % off base", "fixed at €17.60". */
export function methodPhrase(
  method: PriceMethod,
  money: (amount: Decimal) => string,
  listName: (list: string) => string = (id) => id,
): string {
  switch (method.kind) {
    case 'fixed':
      return `fixed at ${money(method.amount)}`
    case 'percent': {
      const from = referencePhrase(method.reference, listName)
      if (method.percent === '0') return method.reference.kind === 'base' ? 'the base price' : from
      return method.percent.startsWith('-')
        ? `${method.percent.slice(1)} % off ${from}`
        : `${method.percent} % on ${from}`
    }
    case 'amount': {
      const from = referencePhrase(method.reference, listName)
      return method.amount.startsWith('-')
        ? `${money(method.amount.slice(1) as Decimal)} off ${from}`
        : `${money(method.amount)} on ${from}`
    }
    case 'markup':
      return `cost and ${method.percent} % markup`
    case 'margin':
      return `cost at ${method.percent} % margin`
  }
}

export function referencePhrase(reference: PriceReference, listName: (list: string) => string): string {
  switch (reference.kind) {
    case 'base':
      return 'base'
    case 'recommended':
      return 'the recommended price'
    case 'cost':
      return 'cost'
    case 'list':
      return listName(reference.list)
  }
}

/** A line's methods as words: one, or one from each quantity on. */
export function breaksPhrase(
  breaks: Breaks,
  money: (amount: Decimal) => string,
  listName: (list: string) => string = (id) => id,
): string {
  const only = onlyMethod(breaks)
  if (only) return methodPhrase(only, money, listName)
  const steps = breaks.breaks.map(({ from, method }) => {
    const words = methodPhrase(method, money, listName)
    return from === '0' ? words : `from ${from}: ${words}`
  })
  return `${steps.join('; ')}${countingWords(breaks)}`
}

function countingWords({ counting, pricing }: Breaks): string {
  const words = [
    ...(counting === 'product'
      ? ['all variants counted']
      : counting === 'line'
        ? ['everything counted together']
        : []),
    ...(pricing === 'graduated' ? ['each bracket at its own price'] : []),
  ]
  return words.length > 0 ? ` (${words.join(', ')})` : ''
}

const MODE_WORDS: Readonly<Record<RoundingRule['mode'], string>> = {
  'half-up': 'to the nearest',
  'half-even': 'to the nearest (ties to even)',
  'half-down': 'to the nearest (ties down)',
  ceiling: 'up to',
  floor: 'down to',
  up: 'up to',
  down: 'down to',
  nearest: 'to the nearest',
}

/** A rounding rule as words: "to the nearest 0.05", "up to .90". */
export function roundingPhrase(rule: RoundingRule): string {
  if (rule.kind === 'step') return `${MODE_WORDS[rule.mode]} ${rule.step}`
  const endings = rule.endings.map((ending) => endingText(ending, rule.period)).join(' or ')
  return `${MODE_WORDS[rule.mode]} ${endings}`
}

/** `.90` within a unit, `9.90` within ten. */
function endingText(ending: Decimal, period: Decimal): string {
  const [whole = '0', fraction = ''] = ending.split('.')
  const cents = `.${fraction.padEnd(2, '0')}`
  return period === '1' ? cents : `${whole}${cents}`
}

/** "Frames and Jars, but not Lids". */
export function butNot(include: readonly string[], exclude: readonly string[]): string {
  return exclude.length > 0
    ? `${namesInWords(include)}, but not ${namesInWords(exclude)}`
    : namesInWords(include)
}

/** "Frames, Jars and Lids". */
export function namesInWords(words: readonly string[]): string {
  return new Intl.ListFormat('en-IE', { type: 'conjunction' }).format(words)
}
