import { compare, type Decimal } from '../decimal/decimal'
import { toFraction } from '../decimal/fraction'
import { roundPrice } from '../decimal/rounding'
import { findClashes } from '../engine/promoted/find-clashes'
import type { PriceLine } from '../price/price-list'
import type { Steps } from '../steps/steps'
import { eachInSteps } from '../steps/steps'
import { aboutRecord, type Finding, type FindingCase, type FindingKind, type Looking } from './finding'

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
  *find({ prepared: { store } }: Looking): Steps<readonly Finding[]> {
    const findings: Finding[] = []
    const missed = new Map<string, FindingCase[]>()
    yield* eachInSteps(store['price-line'].values(), (line) => {
      const list = store['price-list'].get(line.list)
      if (!list || list.status !== 'active' || list.state === 'off') return
      const gap = risingBreak(line)
      if (gap) {
        const found = aboutRecord('break-gap', 'wrong-for-buyers', { kind: 'price-list', id: list.id }, gap)
        findings.push({ ...found, key: `${found.key}/${line.id}` })
      }
      const rounding = line.rounding ?? list.rounding
      if (rounding?.kind !== 'endings') return
      for (const each of line.breaks) {
        if (each.method.kind !== 'fixed') continue
        const { amount } = each.method
        const wanted = roundPrice(toFraction(amount), rounding)
        if (compare(wanted, amount) === 0) continue
        const [term] = line.scope.include
        const breaks = line.breaks.map((other) =>
          other === each ? { ...other, method: { kind: 'fixed', amount: wanted } as const } : other,
        )
        missed.set(list.id, [
          ...(missed.get(list.id) ?? []),
          {
            variant: term?.kind === 'variant' ? term.variant : null,
            buyer: null,
            amounts: { amount, wanted },
            currency: list.currency,
            fix: [{ kind: 'price-line', id: line.id, before: line, after: { ...line, breaks } }],
          },
        ])
      }
    })
    for (const [list, cases] of missed)
      findings.push({
        code: 'ending-missed',
        group: 'untidy',
        key: `ending-missed/price-list/${list}`,
        cause: { kind: 'price-list', id: list },
        cases,
        facts: {},
      })
    return findings
  },
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
