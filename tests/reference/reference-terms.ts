import type { Assortment } from '@/core/access/assortment'
import type { Question } from '@/core/engine/context/buyer-context'
import type { What } from '@/core/predicates/what'
import type { Schedule } from '@/core/predicates/when'
import type { Where } from '@/core/predicates/where'
import type { Who } from '@/core/predicates/who'
import type { Store } from '@/core/store/store'
import { groupsOf, inWhat, inWhen, inWhere, inWho, type Item, WHO_ORDER } from './reference-matching'

/** docs/model.md on access and limits, the slow and obvious way, sharing nothing with the engine it judges. */

export interface ReferenceRights {
  /** The words of what the buyer may do. */
  readonly may: string
  /** What kept them from the rest; empty when nothing did. */
  readonly because: string
}

type VariantItem = Extract<Item, { readonly kind: 'variant' }>

const HIDDEN = ''
const FROM_EFFECT = {
  show: 'see price buy',
  'buy-or-quote': 'see price buy quote',
  'no-buying': 'see price',
  quote: 'see quote',
  'no-price': 'see',
  hide: HIDDEN,
} as const
const FROM_GATE = {
  open: 'see price buy quote',
  'sign-in': HIDDEN,
  passcode: HIDDEN,
  'sign-in-prices': 'see quote',
  'sign-in-buy': 'see price quote',
} as const

export function referenceRights(store: Store, asked: Question, isOffered: boolean): ReferenceRights {
  const question = withGoodPasscode(store, asked)
  const item = itemOf(store, question)
  if (item.variant.status !== 'active' || item.product.status !== 'active')
    return { may: HIDDEN, because: 'archived' }
  const passcode = store.passcode.get(question.passcode ?? '')
  if (passcode?.isReview) return { may: 'see price', because: 'review' }
  const channel = channelOf(store, question)
  const isLet =
    channel.gate === 'open' || (channel.gate === 'passcode' ? passcode : question.buyer.kind !== 'guest')
  const gate: string = isLet ? FROM_GATE.open : FROM_GATE[channel.gate]
  if (gate === HIDDEN) return { may: HIDDEN, because: 'gate' }
  if (channel.assortment && !inAssortment(store, channel.assortment, item))
    return { may: HIDDEN, because: 'assortment' }
  const covered = contractsInForce(store, question).flatMap(({ assortment }) => assortment ?? [])
  if (covered.length > 0 && !covered.some((assortment) => inAssortment(store, assortment, item)))
    return { may: HIDDEN, because: 'assortment' }
  if (!isOffered) return { may: HIDDEN, because: 'not-offered' }
  const rules = strongestFirst(store, question, item, store['access-rule'])
  const first = rules[0]
  // Of rules that say equally much the one that lets a buyer do least.
  const tied = rules.filter((rule) => first && comparable(rule) === comparable(first))
  const order = Object.keys(FROM_EFFECT)
  const hardest = <Ruled extends { readonly rule: { readonly effect: string } }>(some: readonly Ruled[]) =>
    [...some].sort((a, b) => order.indexOf(b.rule.effect) - order.indexOf(a.rule.effect))[0]
  // A product on several branches: what wins on each of them, and of that what lets a buyer do least.
  const onPaths = item.product.categories.flatMap((category) => {
    const there: VariantItem = { ...item, product: { ...item.product, categories: [category] } }
    const found = rules
      .map((each) => ({ ...each, what: inBranch(store, each.rule.scope, there) }))
      .flatMap((each) => (each.what === null ? [] : [{ ...each, what: each.what }]))
      .sort((a, b) => b.what - a.what || a.who - b.who || a.rule.rank - b.rule.rank)
    const best = found[0]
    return hardest(found.filter((each) => best && comparable(each) === comparable(best))) ?? []
  })
  const isByBranch = first !== undefined && inBranch(store, first.rule.scope, item) === first.what
  const won = (isByBranch ? hardest(onPaths) : hardest(tied))?.rule
  const byRule = FROM_EFFECT[won?.effect ?? 'show']
  const may = byRule
    .split(' ')
    .filter((word) => gate.split(' ').includes(word))
    .join(' ')
  if (may !== byRule) return { may, because: 'gate' }
  return { may, because: won && won.effect !== 'show' && won.effect !== 'buy-or-quote' ? won.id : '' }
}

const LIMIT_FIELDS = ['minimum', 'maximum', 'multiple', 'first', 'values'] as const

/** What each field is limited to, and by whom, as `value by level`; empty where it is not. */
export function referenceLimits(store: Store, asked: Question): Readonly<Record<string, string>> {
  const question = withGoodPasscode(store, asked)
  const item = itemOf(store, question)
  const singles = strongestFirst(store, question, item, store.limit).filter(
    ({ rule }) => rule.counting === 'each' && rule.days === null,
  )
  const levels = [
    { by: 'variant', limits: item.variant.limits },
    { by: 'product', limits: item.product.limits },
  ]
  return Object.fromEntries(
    LIMIT_FIELDS.map((field) => {
      const strict = (value: unknown) =>
        field === 'values'
          ? -(value as readonly unknown[]).length
          : field === 'first'
            ? 0
            : Number(value) * (field === 'maximum' ? -1 : 1)
      const rule = singles.find(({ rule: each }) => each[field] !== null)
      const equals = singles.filter(
        (each) => rule && each.rule[field] !== null && comparable(each) === comparable(rule),
      )
      const strictest = equals.reduce<(typeof equals)[number] | undefined>(
        (best, each) =>
          best === undefined || strict(each.rule[field]) > strict(best.rule[field]) ? each : best,
        undefined,
      )
      const level =
        levels.find(({ limits }) => limits[field] !== null) ??
        (strictest && { by: strictest.rule.id, limits: strictest.rule })
      return [field, level ? `${JSON.stringify(level.limits[field])} by ${level.by}` : '']
    }),
  )
}

/** The nearest quantities that are right, found by trying one after the other. Quantities are whole numbers. */
export function triedNearest(
  quantity: number,
  isRight: (quantity: number) => boolean,
  most: number,
): { readonly below: string | null; readonly above: string | null } {
  let below: string | null = null
  let above: string | null = null
  for (let tried = 1; tried <= most; tried += 1) {
    if (!isRight(tried)) continue
    if (tried <= quantity) below = String(tried)
    if (tried >= quantity) above ??= String(tried)
  }
  return { below, above }
}

interface Rule {
  readonly id: string
  readonly code: string
  readonly state: 'on' | 'off'
  readonly status: string
  readonly audience: Who
  readonly scope: What
  readonly place: Where
  readonly schedule: Schedule
  readonly rank: number
}

interface Holding<R extends Rule> {
  readonly rule: R
  readonly what: number
  readonly who: number
}

function comparable({ rule, what, who }: Holding<Rule>): string {
  return `${what}/${who}/${rule.rank}`
}

/** How near a scope is through one of its categories alone; `null` where none of them holds the item. */
function inBranch(store: Store, { include }: What, item: VariantItem): number | null {
  const branches = include.filter(({ kind }) => kind === 'category')
  return inWhat(store, { include: branches, exclude: [] }, item)
}

/** The rules that hold for this buyer and item, here and now: by What, then Who, then rank, then code. */
function strongestFirst<R extends Rule>(
  store: Store,
  question: Question,
  item: VariantItem,
  rules: ReadonlyMap<string, R>,
): readonly Holding<R>[] {
  const { timeZone } = store.settings.get('settings')!
  const holding: Holding<R>[] = []
  for (const rule of rules.values()) {
    if (rule.state !== 'on' || rule.status !== 'active') continue
    const who = inWho(store, rule.audience, question)
    const what = inWhat(store, rule.scope, item)
    if (who === null || what === null) continue
    if (!inWhere(store, rule.place, question) || !inWhen(rule.schedule, timeZone, question.at)) continue
    holding.push({ rule, what, who: WHO_ORDER.findIndex((kinds) => kinds.includes(who.kind)) })
  }
  return holding.sort(
    (a, b) =>
      b.what - a.what || a.who - b.who || a.rule.rank - b.rule.rank || (a.rule.code < b.rule.code ? -1 : 1),
  )
}

/** A passcode that is over, not yet given out, archived or for another channel is none. */
function withGoodPasscode(store: Store, question: Question): Question {
  const passcode = store.passcode.get(question.passcode ?? '')
  const isGood =
    passcode?.status === 'active' &&
    (passcode.channel === null || passcode.channel === channelOf(store, question).id) &&
    holdsFromTo(store, passcode, question.at)
  return isGood ? question : { ...question, passcode: null }
}

function holdsFromTo(
  store: Store,
  { from, to }: { readonly from: string | null; readonly to: string | null },
  at: number,
): boolean {
  const { timeZone } = store.settings.get('settings')!
  return inWhen({ from, to, months: [], weekdays: [], hours: null, overrides: {} }, timeZone, at)
}

function contractsInForce(store: Store, question: Question) {
  const { buyer } = question
  const groups = groupsOf(store, question)
  return [...store.contract.values()].filter(
    (contract) =>
      contract.state === 'active' &&
      holdsFromTo(store, contract, question.at) &&
      ((buyer.kind === 'account' && contract.accounts.includes(buyer.account)) ||
        contract.groups.some((id) => groups.includes(id))),
  )
}

function channelOf(store: Store, { channel }: Question) {
  if (channel !== null) return store.channel.get(channel)!
  return [...store.channel.values()]
    .sort((a, b) => a.position - b.position)
    .find(({ status }) => status === 'active')!
}

/** Its own setting, its product's, else any of its paths up the tree whose nearest setting takes it in. */
function inAssortment(
  store: Store,
  { start, include, exclude }: Assortment,
  { variant, product }: VariantItem,
): boolean {
  const says = (kind: string, id: string): boolean | null => {
    const names = (terms: Assortment['include']) =>
      terms.some((term) => term.kind === kind && Object.values(term).includes(id))
    return names(exclude) ? false : names(include) ? true : null
  }
  const named = says('variant', variant.id) ?? says('product', product.id)
  if (named !== null) return named
  return product.categories.some((filed) => {
    for (let id: string | null = filed; id !== null; id = store.category.get(id)?.parent ?? null) {
      const said = says('category', id)
      if (said !== null) return said
    }
    return start === 'everything'
  })
}

function itemOf(store: Store, question: Question): VariantItem {
  const variant = store.variant.get(question.variant)!
  return { kind: 'variant', variant, product: store.product.get(variant.product)! }
}
