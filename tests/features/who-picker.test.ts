import { readWho } from '@/core/notation/who-text'
import type { Who, WhoTerm } from '@/core/predicates/who'
import { whoChoices } from '@/features/pickers/who-choices'
import { allChoices, leaveOut, markOf, reachOf, takeIn, whoText, whyOf } from '@/ui/picker/who/who-marks'
import { withoutLast } from '@/ui/picker/term-sets'
import { store } from '@tests/fixtures/demo-request'
import fc from 'fast-check'

const choices = whoChoices(store)
const terms = allChoices(choices).map(({ term }) => term)
const NOBODY: Who = { include: [], exclude: [] }
const named = (name: string): WhoTerm => allChoices(choices).find((each) => each.name === name)!.term

/** Audiences as clicks and keys make them. */
const audience = fc
  .array(fc.tuple(fc.constantFrom(...terms), fc.boolean()), { maxLength: 6 })
  .map((steps) =>
    steps.reduce<Who>((who, [term, isIn]) => (isIn ? takeIn(who, term) : leaveOut(who, term)), NOBODY),
  )

test('what is chosen reads back from its text as the same', () => {
  fc.assert(
    fc.property(audience, (who) => {
      expect(readWho(store, whoText(who, choices))).toEqual({ ok: true, value: who })
    }),
  )
})

test('taking in or leaving out twice changes nothing, and no term is both', () => {
  fc.assert(
    fc.property(audience, fc.constantFrom(...terms), (who, term) => {
      const sorted = ({ include, exclude }: Who) => [
        [...include].map(key).sort(),
        [...exclude].map(key).sort(),
      ]
      const key = (each: WhoTerm) => JSON.stringify(each)
      const plain = leaveOut(takeIn(who, term), term)
      expect(plain.include.map(key)).not.toContain(key(term))
      const off = takeIn(takeIn(plain, term), term)
      expect(sorted(off)).toEqual(sorted(leaveOut(plain, term)))
    }),
  )
})

test('a mark says how the accounts of a term stand', () => {
  fc.assert(
    fc.property(audience, fc.constantFrom(...choices.accounts), (who, account) => {
      const isIn = reachOf(who, choices).accounts.includes(account)
      const mark = markOf(account.term, who, choices)
      expect(['chosen', 'through'].includes(mark)).toBe(isIn && mark !== 'out')
      expect(whyOf(account, who, choices, () => 'it').startsWith('in ')).toBe(isIn)
    }),
  )
})

test('a group of which one member is left out is in for a part', () => {
  const farms = named('Bee farms')
  const who = leaveOut(takeIn(NOBODY, farms), named('Fennmoor Honey Farm'))
  expect(markOf(farms, who, choices)).toBe('chosen')
  expect(markOf(named('Fennmoor Honey Farm'), who, choices)).toBe('out')
  expect(markOf(named('Gorseback Bees'), who, choices)).toBe('through')
  expect(markOf(named('All trade groups'), who, choices)).toBe('part')
  expect(markOf(named('Guests'), who, choices)).toBe('none')
  expect(withoutLast(who).exclude).toEqual([])
  expect(withoutLast(withoutLast(who))).toEqual(NOBODY)
})

test('a term is known again in whatever order a database keeps its fields', () => {
  const kept: Who = {
    include: choices.tags.map(({ term }) => Object.fromEntries(Object.entries(term).reverse()) as WhoTerm),
    exclude: [],
  }
  expect(kept.include.length).toBeGreaterThan(0)
  for (const { term } of choices.tags) expect(markOf(term, kept, choices)).toBe('chosen')
  expect(readWho(store, whoText(kept, choices))).toMatchObject({ ok: true })
})
