import 'server-only'

import { findBySku } from '@/core/catalogue/find-by-code'
import { itemName } from '@/core/catalogue/product'
import { compare, type Decimal, subtract } from '@/core/decimal/decimal'
import { PAST_LOOKED_AT, priorPrice } from '@/core/price/prior-price'
import { differencePercent } from '@/core/decimal/difference-percent'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import { beganAt, type CourseCause, type CourseStep, priceCourse } from '@/server/changes/price-course'
import type { RequestContext } from '@/server/engine/request-context'
import { unknownSkuText } from '@/server/engine/unknown-sku'
import { formatAmount, formatMoney, formatPercent } from '@/ui/format/amount'
import { formatDay } from '@/ui/format/instant'

interface HistoryStepView {
  readonly since: number
  /** For drawing; NaN where there was no price. */
  readonly height: number
  readonly day: string
  readonly days: number
  readonly price: string
  readonly change: string
  readonly cause: string
  /** To look from then. */
  readonly on: string
}

export interface PriceHistoryView {
  readonly sku: string
  readonly title: string
  readonly problem: string
  readonly buyer: string
  readonly quantity: string
  /** In the order of time; shown the other way round. */
  readonly steps: readonly HistoryStepView[]
  readonly start: number
  readonly end: number
  readonly isWhole: boolean
  /** What they paid on the day that is looked at. */
  readonly then: { readonly day: string; readonly price: string; readonly cause: string } | null
  /** What a reduction announced now may stand beside, for the public. */
  readonly prior: {
    readonly price: string
    readonly since: string
    readonly now: string
    /** How much less that is; empty where it is no less. */
    readonly percent: string
  } | null
  readonly months: number
}

const DAY = 86_400_000

/** What one buyer paid for one item, step by step. */
export async function loadPriceHistory(
  { steppe, view, vantage, buyerContext, buyerName, quantity, now }: RequestContext,
  { sku, months }: { readonly sku: string; readonly months: number },
): Promise<PriceHistoryView> {
  const { store } = view.prepared
  const variant = findBySku(store.variant, sku)
  const product = variant && store.product.get(variant.product)
  const at = vantage.on === null ? null : Date.parse(vantage.on)
  // Looked at from a day to come, it goes on to there as the calendar has it.
  const end = Math.max(now, at === null ? now : at + 1)
  // Before there was a store nobody paid anything.
  const start = Math.max(await beganAt(steppe), end - months * 30.4375 * DAY)
  const empty = {
    sku,
    title: '',
    buyer: buyerName,
    quantity: String(quantity / 1000),
    steps: [],
    start,
    end,
    isWhole: true,
    then: null,
    prior: null,
    months,
  }
  if (!variant || !product) return { ...empty, problem: sku === '' ? '' : unknownSkuText(store, sku) }
  const { timeZone } = getSettings(store)
  const asked = { from: buyerContext, variant: variant.id, quantity }
  const course = await priceCourse(steppe, asked, { start, end })
  const guests = await priceCourse(
    steppe,
    { ...asked, from: { ...buyerContext, buyer: { kind: 'guest' }, currency: null, passcode: null } },
    { start: end - PAST_LOOKED_AT, end },
  )
  const digits = (currency: string) =>
    priceDigitsOf(store, currency === '' ? getSettings(store).currency : currency)
  const steps = course.steps.map((step, at): HistoryStepView => {
    const before = course.steps[at - 1]
    const until = course.steps[at + 1]?.since ?? end
    return {
      since: step.since,
      height: step.price === null ? Number.NaN : Number(step.price),
      day: formatDay(new Date(step.since), timeZone),
      days: Math.max(1, Math.round((until - step.since) / DAY)),
      price: step.price === null ? 'no price' : formatMoney(step.price, step.currency, digits(step.currency)),
      change: changeText(before, step, digits(step.currency)),
      cause: causeText(step.cause, step.source),
      on: `${new Date(Math.ceil((step.since + 1) / 60_000) * 60_000).toISOString().slice(0, 16)}Z`,
    }
  })
  const stood = at === null ? null : course.steps.findLast(({ since }) => since <= at)
  return {
    ...empty,
    title: itemName(product, variant),
    problem: '',
    steps,
    isWhole: course.isWhole,
    then:
      stood && at !== null
        ? {
            day: formatDay(new Date(at), timeZone),
            price:
              stood.price === null
                ? 'no price'
                : formatMoney(stood.price, stood.currency, digits(stood.currency)),
            cause: causeText(stood.cause, stood.source),
          }
        : null,
    prior: priorText(guests.steps, end, timeZone, digits),
  }
}

function changeText(before: CourseStep | undefined, step: CourseStep, digits: number): string {
  if (!before?.price || !step.price || before.currency !== step.currency) return ''
  const difference = subtract(step.price, before.price)
  return `${compare(difference, '0' as Decimal) > 0 ? '+' : ''}${formatAmount(difference, digits)}`
}

function causeText(cause: CourseCause, source: string): string {
  const from = source === '' ? 'base price' : source
  switch (cause.kind) {
    case 'beginning':
      return from
    case 'change':
      return `${cause.note} · ${cause.author}`
    case 'date': {
      const parts = [
        ...cause.started.map((name) => `${name} starts`),
        ...cause.ended.map((name) => `${name} ends`),
      ]
      return parts.length === 0 ? from : parts.join(', ')
    }
  }
}

/** What an announced reduction may stand beside today. */
function priorText(
  steps: readonly CourseStep[],
  at: number,
  timeZone: string,
  digits: (currency: string) => number,
): PriceHistoryView['prior'] {
  const current = steps.at(-1)
  const prior = priorPrice(steps, at)
  if (!prior || !current?.price) return null
  const { currency } = current
  const percent = differencePercent(current.price, prior.price)
  return {
    price: formatMoney(prior.price, currency, digits(currency)),
    since: formatDay(new Date(prior.since), timeZone),
    now: formatMoney(current.price, currency, digits(currency)),
    percent: percent === null || compare(percent, '0' as Decimal) >= 0 ? '' : formatPercent(percent),
  }
}
