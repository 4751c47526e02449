import { NASTY_TEXTS, numbers } from './wrong-requests'

/** What fields of things that are sent are called, among others. */
const KEYS = [
  ...[
    'id',
    'kind',
    'code',
    'name',
    'seen',
    'after',
    'before',
    'who',
    'what',
    'where',
    'draft',
    'lines',
    'sku',
    'as',
  ],
  ...[
    'quantity',
    'amount',
    'field',
    'edits',
    'scope',
    'include',
    'exclude',
    'steps',
    'parts',
    'order',
    'number',
  ],
  ...[
    'reason',
    'people',
    'email',
    'price',
    'records',
    'schedule',
    'from',
    'to',
    'breaks',
    'method',
    'vantage',
    'until',
  ],
  ...[
    'buyer',
    'account',
    'address',
    'country',
    'version',
    'working',
    'message',
    'files',
    '__proto__',
    'constructor',
  ],
] as const
const KINDS = [
  'product',
  'variant',
  'price-list',
  'account',
  'promotion',
  'settings',
  'everyone',
  'send',
  'offer',
] as const
const CODES = [
  'FR-BR',
  'FR-BR-PF',
  'bee-farms',
  'guest',
  'account:fennmoor',
  'C-104',
  '10001',
  'jars',
  'base',
  'live',
] as const

/** Arguments an action's page might never send, but of the shapes it says it takes: the same ones for the same seed. */
export function wrongArguments(shapes: readonly string[], seed: number): readonly unknown[] {
  const next = numbers(seed)
  const one = <Item>(items: readonly Item[]): Item => items[Math.floor(next() * items.length)] as Item
  const some = <Item>(make: () => Item): Item[] => Array.from({ length: Math.floor(next() * 4) }, make)
  const text = () =>
    next() < 0.5 ? one(CODES) : one(NASTY_TEXTS.filter((each) => !/[\u0000\ud800]/.test(each)))
  const number = () => one([0, 1, -1, 2, 10_001, 1.5, 2 ** 31, 2 ** 53, -0, 1e300])
  const value = (depth: number): unknown => {
    const kind = next()
    if (depth > 4 || kind < 0.3) return next() < 0.3 ? one(KINDS) : text()
    if (kind < 0.4) return one([null, true, false, number()])
    if (kind < 0.55) return some(() => value(depth + 1))
    return thing(depth)
  }
  const thing = (depth: number): unknown =>
    next() < 0.3
      ? some(() => value(depth + 1))
      : Object.fromEntries(
          Array.from({ length: 1 + Math.floor(next() * 7) }, () => [one(KEYS), value(depth + 1)]),
        )
  const form = () => {
    const made = new FormData()
    for (const [name, given] of some(() => [one(KEYS), text()] as const)) made.append(name, given)
    return made
  }
  const make: Readonly<Record<string, () => unknown>> = {
    TEXT: text,
    TEXTS: () => some(text),
    NUMBER: number,
    NUMBERS: () => some(number),
    FLAG: () => next() < 0.5,
    FORM: form,
    THING: () => thing(0),
  }
  return shapes.map((shape) => {
    const [kind = ''] = shape.split('.')
    // What is a shape of the action's own is a thing or a text, and mostly another.
    const made = make[kind.trim()] ?? (() => value(0))
    return shape.includes('allow(null)') && next() < 0.3 ? null : made()
  })
}
