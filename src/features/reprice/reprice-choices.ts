import type { ReferenceField } from '@/core/catalogue/product'
import { findByCode } from '@/core/catalogue/find-by-code'
import { findNearest } from '@/core/issue/issue'
import type { What } from '@/core/predicates/what'
import type { RepriceTarget } from '@/core/reprice/reprice-target'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { currenciesTaken, getSettings, type Store } from '@/core/store/store'

/** A group of things to choose between, as value and name. */
export interface ChoiceGroup {
  readonly title: string
  readonly choices: readonly (readonly [value: string, name: string])[]
}

const FIELDS: Readonly<Record<ReferenceField, string>> = {
  basePrice: 'base price',
  cost: 'cost',
  recommendedPrice: 'recommended price',
  floor: 'floor',
}

const FACTS: readonly (readonly [value: string, name: string])[] = [
  ['', 'all of it'],
  ['low-margin', 'with a margin below 15 %'],
  ['unchanged', 'not changed for a year'],
  ['never-sold', 'never sold here'],
  ['sold', 'sold in the last 90 days'],
]

/** Of so many lists one chooses here; those of a larger store lead here from their own sheets. */
const MOST_LISTS = 60

const MOST_ATTRIBUTES = 60

const isField = (text: string): text is ReferenceField => text in FIELDS

/** Every amount a rule can change, and the one that is chosen. */
export function fieldChoices(store: Store, chosen: string): readonly ChoiceGroup[] {
  const home = getSettings(store).currency
  const foreign = currenciesTaken(store).filter((currency) => currency !== home)
  const fixing = new Set<string>()
  for (const { list, breaks } of store['price-line'].values())
    if (breaks.some(({ method }) => method.kind === 'fixed')) fixing.add(list)
  const fields = Object.entries(FIELDS)
  return [
    { title: '', choices: fields },
    ...foreign.map((currency) => ({
      title: `Set in ${currency}`,
      choices: fields.map(([field, name]) => [`${field}@${currency}`, `${name} set in ${currency}`] as const),
    })),
    {
      title: 'Fixed in a price list',
      choices: listChoices(
        store,
        (id) => fixing.has(id),
        'list',
        (name) => `prices fixed in ${name}`,
        chosen,
      ),
    },
  ].filter(({ choices }) => choices.length > 0)
}

/** What narrows the rows, and what is chosen. */
export function factChoices(store: Store, chosen: string): readonly ChoiceGroup[] {
  const lists = listChoices(
    store,
    () => true,
    'in',
    (name) => `in ${name}`,
    chosen,
  )
  return [
    { title: '', choices: FACTS },
    { title: 'With an attribute', choices: attributeChoices(store) },
    { title: 'In a price list', choices: lists },
  ].filter(({ choices }) => choices.length > 0)
}

function attributeChoices(store: Store): ChoiceGroup['choices'] {
  const found = new Map<string, string>()
  for (const { attributes, status } of store.product.values())
    if (status === 'active')
      for (const [name, value] of Object.entries(attributes))
        found.set(`has:${name}=${value}`, `with ${name} ${value}`)
  // Of more than can be chosen between here, the What picker chooses.
  return found.size > MOST_ATTRIBUTES ? [] : [...found].sort(([, left], [, right]) => (left < right ? -1 : 1))
}

/** What a rule can start from. */
export function sourceChoices(field: string): readonly ChoiceGroup[] {
  const others = Object.entries(FIELDS).filter(([each]) => each !== field)
  return [{ title: '', choices: [['', 'amount itself'], ...others] }]
}

function listChoices(
  store: Store,
  isMeant: (id: string) => boolean,
  word: string,
  say: (name: string) => string,
  chosen: string,
): ChoiceGroup['choices'] {
  const lists = [...store['price-list'].values()]
    .filter(({ id, status }) => status === 'active' && isMeant(id))
    .map(({ code, name }) => [`${word}:${code}`, say(name)] as const)
    .sort(([, left], [, right]) => (left < right ? -1 : 1))
  const own = lists.find(([value]) => value === chosen)
  const shown = lists.slice(0, MOST_LISTS)
  return own && !shown.includes(own) ? [own, ...shown] : shown
}

type Found<Value> =
  { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly problem: string }

/** The amounts an address means. */
export function readTarget(store: Store, text: string): Found<RepriceTarget> {
  if (text.startsWith('list:')) {
    const list = readList(store, text.slice('list:'.length))
    return list.ok ? { ok: true, value: { kind: 'list', list: list.value } } : list
  }
  const [field = '', currency] = text.split('@')
  if (!isField(field)) return { ok: false, problem: `There is no amount “${field}”.` }
  if (currency === undefined || currency === getSettings(store).currency)
    return { ok: true, value: { kind: 'amount', field } }
  if (!currenciesTaken(store).includes(currency))
    return { ok: false, problem: `The store takes no currency “${currency}”.` }
  return { ok: true, value: { kind: 'own-amount', field, currency } }
}

/** What a rule starts from; `null` for the amount itself. */
export function readSource(text: string): Found<ReferenceField | null> {
  if (text === '') return { ok: true, value: null }
  return isField(text) ? { ok: true, value: text } : { ok: false, problem: `There is no amount “${text}”.` }
}

/** The id of the list rows are narrowed to, or the scope; neither where it is another fact, or none. */
export function readFact(
  store: Store,
  text: string,
): Found<{ readonly list: string | null; readonly scope: What | null }> {
  if (text.startsWith('in:')) {
    const list = readList(store, text.slice('in:'.length))
    return list.ok ? { ok: true, value: { list: list.value, scope: null } } : list
  }
  const [, name, value] = /^has:([^=]+)=(.+)$/.exec(text) ?? []
  if (name !== undefined && value !== undefined)
    return {
      ok: true,
      value: { list: null, scope: { include: [{ kind: 'attribute', name, value }], exclude: [] } },
    }
  return FACTS.some(([each]) => each === text)
    ? { ok: true, value: { list: null, scope: null } }
    : { ok: false, problem: `There is no filter “${text}”.` }
}

function readList(store: Store, code: string): Found<string> {
  const list = findByCode(store['price-list'], code)
  if (list) return { ok: true, value: list.id }
  const nearest = findNearest(
    code,
    [...store['price-list'].values()].map((each) => each.code),
  )
  return {
    ok: false,
    problem: refusalSentence({ code: 'unknown', what: 'price list', value: code, nearest }),
  }
}

/** A rule's amounts, as a history says them. */
export function targetWords(store: Store, target: RepriceTarget): string {
  if (target.kind === 'list')
    return `prices fixed in ${store['price-list'].get(target.list)?.name ?? target.list}`
  const name = FIELDS[target.field]
  return target.kind === 'amount' ? name : `${name} set in ${target.currency}`
}
