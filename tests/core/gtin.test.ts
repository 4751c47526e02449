import { checkDigit, readGtin } from '@/core/catalogue/gtin'
import { parseVariant } from '@/core/catalogue/parse-catalogue'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import fc from 'fast-check'

// Source: GS1 "How to calculate a check digit manually" (X70, X71), python-stdnum's ean.py (X72, X73): checks.md, 7.3.
test.each([
  ['629104150021', '3'],
  ['400638133393', '1'],
  ['7351353', '7'],
  ['9841234567890', '8'],
])('behind %s belongs %s', (digits, digit) => expect(checkDigit(digits)).toBe(digit))

// checks.md, 7.3: X75–X79.
test.each([
  ['6291041500213', true],
  ['6291041500231', false],
  ['6291041500312', true],
  ['629104150021', false],
  ['0000000000000', false],
  ['98412345678908', true],
  ['73513537', true],
])('%s is a GTIN: %p', (text, isOne) => expect(readGtin(text).ok).toBe(isOne))

test('every single wrong digit is found', () => {
  fc.assert(
    fc.property(
      fc.stringMatching(/^[1-9]\d{11}$/),
      fc.nat(12),
      fc.integer({ min: 1, max: 9 }),
      (digits, at, by) => {
        const right = digits + checkDigit(digits)
        const wrong = [...right].map((digit, place) =>
          place === at ? String((Number(digit) + by) % 10) : digit,
        )
        expect(readGtin(right).ok).toBe(true)
        expect(readGtin(wrong.join('')).ok).toBe(false)
      },
    ),
  )
})

test('a variant keeps it without spaces, and what is none is refused with the digit that would be right', () => {
  const parse = (gtin: string | null) =>
    parseVariant({ ...RECORD_DEFAULTS.variant, id: 'v', sku: 'V', product: 'p', gtin }, {
      digits: 2,
      digitsOf: () => 2,
    } as never)
  expect(parse(' 629 1041 50021-3 ')).toMatchObject({ ok: true, value: { gtin: '6291041500213' } })
  expect(parse('')).toMatchObject({ ok: true, value: { gtin: null } })
  expect(parse('6291041500214')).toMatchObject({
    ok: false,
    issues: [{ code: 'malformed', field: 'gtin', expected: expect.stringContaining('its last one is 3') }],
  })
  expect(parse('62910')).toMatchObject({ ok: false, issues: [{ field: 'gtin' }] })
})
