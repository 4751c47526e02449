import { compare, type Decimal } from '../decimal/decimal'
import { toFraction } from '../decimal/fraction'
import { roundPrice } from '../decimal/rounding'
import { findClashes } from '../engine/promoted/find-clashes'
import type { PriceLine, PriceList } from '../price/lines/price-list'
import type { Steps } from '../steps/steps'
import { listByList } from './by-list'
import {
  aboutRecord,
  withCases,
  type Finding,
  type FindingCase,
  type FindingKind,
  type Looking,
} from './finding'

/** Promotions of one priority that can take the same units. */
export const CLASH_FINDINGS: FindingKind = {
  code: 'promotions-clash',
  looksAt: ['promotion', 'product', 'variant', 'category', 'settings'],
  *find({ prepared, at }: Looking): Steps<readonly Finding[]> {
    const clashes = yield* findClashes(prepared, at)
    return clashes
      .filter(({ first, then }) => first.rank === then.rank)
      .map(({ first, then, count }) => {
        const later = { ...then, rank: then.rank + 1 }
        const found = aboutRecord(
          'promotions-clash',
          'untidy',
          { kind: 'promotion', id: first.id },
          { other: then.name, count: String(count), rank: String(first.rank) },
          [{ kind: 'promotion', id: then.id, before: then, after: later }],
        )
        return { ...found, key: `${found.key}/${then.id}` }
      })
  },
}

/** Lines on which buying more costs more a piece, and fixed prices typed off the endings of their list. */
export const BREAK_FINDINGS: FindingKind = {
  code: 'break-gap',
  looksAt: ['price-line', 'price-list'],
  find: ({ prepared }) => findBreakFaults(prepared),
}

const findBreakFaults = listByList(
  'breaks',
  () => [],
  (_, { list, lines }) => {
    if (list.status !== 'active' || list.state === 'off') return []
    const cause = { kind: 'price-list', id: list.id } as const
    const gaps = lines.flatMap((line) => {
      const gap = risingBreak(line)
      if (!gap) return []
      const found = aboutRecord('break-gap', 'wrong-for-buyers', cause, gap)
      return [{ ...found, key: `${found.key}/${line.id}` }]
    })
    const missed = lines.flatMap((line) => missedEndings(list, line))
    if (missed.length === 0) return gaps
    const about = {
      code: 'ending-missed',
      group: 'untidy',
      key: `ending-missed/price-list/${list.id}`,
    } as const
    return [...gaps, withCases({ ...about, cause, facts: {} }, missed)]
  },
)

/** Fixed prices of a line that do not end as its list says. */
function missedEndings(list: PriceList, line: PriceLine): readonly FindingCase[] {
  const rounding = line.rounding ?? list.rounding
  if (rounding?.kind !== 'endings') return []
  const cases: FindingCase[] = []
  for (const each of line.breaks) {
    if (each.method.kind !== 'fixed') continue
    const { amount } = each.method
    const wanted = roundPrice(toFraction(amount), rounding)
    if (compare(wanted, amount) === 0) continue
    const [term] = line.scope.include
    const breaks = line.breaks.map((other) =>
      other === each ? { ...other, method: { kind: 'fixed', amount: wanted } as const } : other,
    )
    cases.push({
      variant: term?.kind === 'variant' ? term.variant : null,
      buyer: null,
      amounts: { amount, wanted },
      currency: list.currency,
      fix: [{ kind: 'price-line', id: line.id, before: line, after: { ...line, breaks } }],
    })
  }
  return cases
}

/** Two neighbouring breaks of which the higher one is dearer, as far as the line alone tells. */
function risingBreak({ breaks, pricing }: PriceLine): Readonly<Record<string, string>> | null {
  if (pricing === 'graduated') return null
  for (const [at, next] of breaks.entries()) {
    const before = breaks[at - 1]
    if (!before || before.method.kind !== next.method.kind) continue
    const [less, more] = [sizeOf(before.method), sizeOf(next.method)]
    if (less === null || more === null || reference(before.method) !== reference(next.method)) continue
    if (compare(more, less) > 0) return { from: next.from, less, more }
  }
  return null
}

type Method = PriceLine['breaks'][number]['method']

function sizeOf(method: Method): Decimal | null {
  return method.kind === 'fixed' || method.kind === 'amount' ? method.amount : method.percent
}

function reference(method: Method): string {
  return 'reference' in method ? JSON.stringify(method.reference) : ''
}
