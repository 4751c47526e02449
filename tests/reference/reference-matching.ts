import type { Product, Variant } from '@/core/catalogue/product'
import type { What, WhatTerm } from '@/core/predicates/what'
import type { Schedule } from '@/core/predicates/when'
import type { Where } from '@/core/predicates/where'
import type { Who, WhoTerm } from '@/core/predicates/who'
import type { Question } from '@/core/engine/context/buyer-context'
import type { Store } from '@/core/store/store'
import Decimal from 'decimal.js'

/** The four predicates of docs/model.md, the slow and obvious way, sharing nothing with those they judge. */

/** A thing that has a price: a variant with its product, or an extra. */
export type Item =
  | { readonly kind: 'variant'; readonly variant: Variant; readonly product: Product }
  | { readonly kind: 'extra'; readonly extra: string }

/** From those that say most of a buyer to those that say least. */
export const WHO_ORDER: readonly (readonly WhoTerm['kind'][])[] = [
  ['account', 'email'],
  ['passcode'],
  ['tag'],
  ['group'],
  ['trade'],
  ['signed-in', 'guests'],
  ['everyone'],
]

export function inWho(store: Store, { include, exclude }: Who, question: Question): WhoTerm | null {
  if (exclude.some((term) => inAudience(store, term, question))) return null
  for (const kinds of WHO_ORDER) {
    const found = include.find((term) => kinds.includes(term.kind) && inAudience(store, term, question))
    if (found) return found
  }
  return null
}

export function groupsOf(store: Store, { buyer }: Question): readonly string[] {
  if (buyer.kind === 'group') return [buyer.group]
  return buyer.kind === 'account' ? (store.account.get(buyer.account)?.groups ?? []) : []
}

function inAudience(store: Store, term: WhoTerm, question: Question): boolean {
  const { buyer } = question
  const account = buyer.kind === 'account' ? store.account.get(buyer.account) : undefined
  const groups = groupsOf(store, question)
  if (term.kind === 'everyone') return true
  if (term.kind === 'guests') return buyer.kind === 'guest'
  if (term.kind === 'signed-in') return buyer.kind !== 'guest'
  if (term.kind === 'trade') return groups.some((id) => store.group.get(id)?.trade)
  if (term.kind === 'group') return groups.includes(term.group)
  if (term.kind === 'tag') return account?.tags.includes(term.tag) ?? false
  if (term.kind === 'email') return account?.emails.includes(term.email) ?? false
  if (term.kind === 'passcode') return question.passcode === term.passcode
  return account?.id === term.account
}

/** A number that grows with how specific the scope is for the item; `null` when it does not hold it. */
export function inWhat(store: Store, { include, exclude }: What, item: Item): number | null {
  if (exclude.some((term) => reach(store, term, item) !== null)) return null
  const reached = include.map((term) => reach(store, term, item)).filter((found) => found !== null)
  return reached.length > 0 ? Math.max(...reached) : null
}

export function reach(store: Store, term: WhatTerm, item: Item): number | null {
  if (item.kind === 'extra') return term.kind === 'extra' && term.extra === item.extra ? 1_000_000 : null
  const { product, variant } = item
  const base = variant.basePrice ?? product.basePrice
  switch (term.kind) {
    case 'extra':
      return null
    case 'variant':
      return term.variant === variant.id ? 1_000_000 : null
    case 'product':
      return term.product === product.id ? 500_000 : null
    case 'family':
      return (variant.family ?? product.family) === term.family ? 200_000 : null
    case 'attribute':
      return (variant.options[term.name] ?? product.attributes[term.name]) === term.value ? 100_000 : null
    case 'everything':
      return 0
    case 'stock': {
      const isOut = store.outOfStock.has(variant.id)
      return isOut === (term.state === 'out-of-stock') ? 5 : null
    }
    case 'price-range':
      if (base === null) return null
      if (term.from !== null && new Decimal(base).lt(term.from)) return null
      return term.to !== null && new Decimal(base).gte(term.to) ? null : 5
    case 'category': {
      let nearest: number | null = null
      for (const own of product.categories) {
        let steps = 0
        for (let id: string | null = own; id !== null; id = store.category.get(id)?.parent ?? null) {
          if (id === term.category && (steps === 0 || term.descendants))
            nearest = Math.min(nearest ?? steps, steps)
          steps += 1
        }
      }
      return nearest === null ? null : 10_000 - nearest
    }
  }
}

/** Ids of the regions that hold the question's place, the decisive one first. */
export function regionsHolding(store: Store, question: Question): readonly string[] {
  const { buyer } = question
  const account = buyer.kind === 'account' ? store.account.get(buyer.account) : undefined
  const country =
    question.deliverTo?.country ?? account?.country ?? store.settings.get('settings')?.country ?? ''
  const state = question.deliverTo?.state ?? ''
  const regions = [...store.region.values()]
    .filter(({ status }) => status === 'active')
    .sort((a, b) => a.position - b.position)
  const byState = regions.filter(({ countries }) => countries.includes(`${country}-${state}`))
  const byCountry = regions.filter(
    (region) => region.countries.includes(country) && !byState.includes(region),
  )
  const named = [...byState, ...byCountry]
  const fallback = [...store.region.values()].filter((each) => each.status === 'active' && each.isDefault)
  return (named.length > 0 ? named : fallback.slice(0, 1)).map(({ id }) => id)
}

export function inWhere(store: Store, { include, exclude }: Where, question: Question): boolean {
  const channels = [...store.channel.values()].sort((a, b) => a.position - b.position)
  const channel =
    question.channel === null
      ? channels.find(({ status }) => status === 'active')
      : store.channel.get(question.channel)
  const regions = regionsHolding(store, question)
  const holds = (term: Where['include'][number]) => {
    if (term.kind === 'channel') return channel?.id === term.channel
    if (term.kind === 'channel-group') return channel?.groups.includes(term.group) ?? false
    return regions.includes(term.region)
  }
  if (exclude.some(holds)) return false
  const ofRegions = include.filter(({ kind }) => kind === 'region')
  const ofChannels = include.filter(({ kind }) => kind !== 'region')
  return (
    (ofRegions.length === 0 || ofRegions.some(holds)) && (ofChannels.length === 0 || ofChannels.some(holds))
  )
}

/** By the wall clock of the zone, as `Intl` tells it. */
export function inWhen(schedule: Schedule, timeZone: string, at: number): boolean {
  const now = wallClock(at, timeZone)
  if (schedule.from !== null && now.text < schedule.from) return false
  if (schedule.to !== null && now.text >= schedule.to) return false
  const day = 24 * 60
  const isOpen = (date: ReturnType<typeof wallClock>, minutes: number) => {
    if (schedule.months.length > 0 && !schedule.months.includes(date.month)) return false
    if (schedule.weekdays.length > 0 && !schedule.weekdays.includes(date.weekday)) return false
    const override = schedule.overrides[date.weekday]
    if (override === null) return false
    const window = override ?? schedule.hours
    if (!window) return minutes < day
    const [from, to] = [window.from, window.to].map((time) => {
      const [hours = 0, rest = 0] = time.split(':').map(Number)
      return hours * 60 + rest
    }) as [number, number]
    return minutes >= from && minutes < (to > from ? to : to + day)
  }
  const yesterday = wallClock(Date.parse(`${now.text.slice(0, 10)}T12:00Z`) - day * 60_000, 'UTC')
  return isOpen(now, now.minutes) || isOpen(yesterday, now.minutes + day)
}

const CLOCKS = new Map<string, Intl.DateTimeFormat>()

function clockOf(timeZone: string): Intl.DateTimeFormat {
  const clock =
    CLOCKS.get(timeZone) ??
    new Intl.DateTimeFormat('en-GB', {
      timeZone,
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
      hourCycle: 'h23',
    })
  CLOCKS.set(timeZone, clock)
  return clock
}

function wallClock(at: number, timeZone: string) {
  const parts = clockOf(timeZone).formatToParts(at)
  const part = (type: string) => parts.find((each) => each.type === type)?.value ?? ''
  const date = `${part('year')}-${part('month')}-${part('day')}`
  const weekday = new Date(`${date}T12:00Z`).getUTCDay()
  return {
    text: `${date}T${part('hour')}:${part('minute')}`,
    month: Number(part('month')),
    weekday: weekday === 0 ? 7 : weekday,
    minutes: Number(part('hour')) * 60 + Number(part('minute')) + Number(part('second')) / 60,
  }
}
