import type { Vantage } from '@/core/engine/context/vantage'
import { DEFAULT_VANTAGE, parseVantage, serializeVantage, withVantage } from '@/ui/frame/vantage-url'
import fc from 'fast-check'

const vantages: fc.Arbitrary<Vantage> = fc.record({
  as: fc.constantFrom<Vantage['as'][]>('guest', 'group:bee-farms', 'account:fennmoor'),
  buying: fc.oneof(fc.integer({ min: 1, max: 1_000_000 }), fc.constantFrom(0.5, 12.125)),
  channel: fc.constantFrom(null, 'counter'),
  deliverTo: fc.constantFrom(null, 'NO', 'US-CA'),
  currency: fc.constantFrom(null, 'GBP'),
  draft: fc.constantFrom(null, 'spring'),
  on: fc.option(
    fc
      .date({ min: new Date('2000-01-01'), max: new Date('2099-12-31'), noInvalidDate: true })
      .map((date) => `${date.toISOString().slice(0, 16)}Z`),
  ),
})

test('what is written into an address is read from it', () => {
  fc.assert(
    fc.property(vantages, (vantage) => {
      expect(parseVantage(serializeVantage(vantage))).toEqual(vantage)
      const address = withVantage('/board?in=frames&as=guest', vantage)
      const fields = new URLSearchParams(address.split('?')[1])
      expect(parseVantage(fields)).toEqual(vantage)
      expect(fields.get('in')).toBe('frames')
    }),
  )
})

test('a day alone is looked at in its middle', () => {
  expect(parseVantage(new URLSearchParams('on=2027-03-15')).on).toBe('2027-03-15T12:00Z')
})

test.each([
  'buying=0',
  'buying=-3',
  'buying=many',
  'buying=1.0005',
  'to=Norway',
  'paying=pounds',
  'as=nobody',
  'on=yesterday',
  'on=2026-13-01T00:00Z',
])('%s shows the default instead', (query) =>
  expect(parseVantage(new URLSearchParams(query))).toEqual(DEFAULT_VANTAGE),
)
