import { readPlaceText, writePlaceText } from '@/core/notation/place-text'
import { countryCodes, partCodes } from '@/core/places/iso-3166'
import fc from 'fast-check'

const NOWHERE = { country: '', state: '', postcode: '', city: '' }

test.each([
  ['everywhere', NOWHERE],
  ['', NOWHERE],
  ['Ireland', { ...NOWHERE, country: 'IE' }],
  ['us-ca', { ...NOWHERE, country: 'US', state: 'CA' }],
  ['US-CA, 95200-95299', { ...NOWHERE, country: 'US', state: 'CA', postcode: '95200-95299' }],
  ['US-CA, Oakfell', { ...NOWHERE, country: 'US', state: 'CA', city: 'Oakfell' }],
  ['IE, postcode d02, city Dublin', { ...NOWHERE, country: 'IE', postcode: 'D02', city: 'Dublin' }],
])('“%s”', (text, place) => {
  expect(readPlaceText(text)).toEqual({ ok: true, value: place })
})

test('a country that is none is refused with the nearest', () => {
  expect(readPlaceText('Irland, Dublin')).toEqual({
    ok: false,
    problem: 'There is no country “Irland”. Did you mean IE?',
  })
})

test('every place is read back from its phrase', () => {
  const land = fc
    .constantFrom(...countryCodes())
    .chain((country) =>
      fc.record({ country: fc.constant(country), state: fc.constantFrom('', ...partCodes(country)) }),
    )
  const place = fc
    .tuple(
      land,
      fc.constantFrom('', '95200', 'D02*', '1000-1999'),
      fc.constantFrom('', 'Oakfell', 'St. John’s'),
    )
    .map(([where, postcode, city]) => ({ ...where, postcode, city }))
  fc.assert(
    fc.property(place, (where) => {
      expect(readPlaceText(writePlaceText(where))).toEqual({ ok: true, value: where })
    }),
  )
})
