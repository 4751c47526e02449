import { findByCode } from '@/core/catalogue/find-by-code'
import { withChanges } from '@/core/maps/layered-map'
import fc from 'fast-check'

const changes = fc.array(fc.tuple(fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'), fc.option(fc.integer())), {
  maxLength: 6,
})

test('a layered map reads like a map the same changes were made to', () => {
  fc.assert(
    fc.property(
      fc.dictionary(fc.constantFrom('a', 'b', 'c'), fc.integer()),
      fc.integer({ min: 0, max: 1500 }),
      fc.array(changes, { maxLength: 5 }),
      (start, more, rounds) => {
        const plain = new Map(Object.entries(start))
        for (let at = 0; at < more; at += 1) plain.set(`x${at}`, at)
        let layered: ReadonlyMap<string, number> = new Map(plain)
        for (const round of rounds) {
          const before = [...layered]
          const next = withChanges(layered, round)
          expect([...layered]).toEqual(before)
          layered = next
          for (const [key, value] of round) {
            if (value === null) plain.delete(key)
            else plain.set(key, value)
          }
        }
        expect(layered.size).toBe(plain.size)
        expect(new Map(layered)).toEqual(plain)
        expect([...layered.keys()].sort()).toEqual([...plain.keys()].sort())
        for (const key of ['a', 'f', 'x3']) {
          expect(layered.get(key)).toBe(plain.get(key))
          expect(layered.has(key)).toBe(plain.has(key))
        }
        let sum = 0
        layered.forEach((value) => (sum += value))
        expect(sum).toBe([...plain.values()].reduce((total, value) => total + value, 0))
      },
    ),
  )
})

test('a code is found as in a plain map, whatever was renamed, removed and added since', () => {
  type Coded = { readonly code: string }
  const edit = fc.tuple(
    fc.integer({ min: 0, max: 9 }).map(String),
    fc.option(fc.integer({ min: 0, max: 19 }).map((code): Coded => ({ code: `Code-${code}` }))),
  )
  fc.assert(
    fc.property(fc.array(fc.array(edit, { maxLength: 4 }), { maxLength: 6 }), (turns) => {
      let map: ReadonlyMap<string, Coded> = new Map(
        Array.from({ length: 10 }, (_, at) => [String(at), { code: `code-${at}` }] as const),
      )
      for (const turn of turns) {
        // No two records share a code, as the database sees to.
        const next = withChanges(map, turn)
        const codes = [...next.values()].map(({ code }) => code.toLowerCase())
        if (new Set(codes).size < codes.length) continue
        map = next
        for (let code = 0; code < 20; code += 1) {
          const wanted = [...map.values()].find((each) => each.code.toLowerCase() === `code-${code}`)
          expect(findByCode(map, `CODE-${code}`)).toBe(wanted ?? null)
        }
      }
    }),
  )
})
