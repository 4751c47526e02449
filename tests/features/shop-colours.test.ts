import { NAMED_COLOURS, shopColours } from '@/ui/theme/shop-colours'
import { refusals } from '@tests/fixtures/written-store'
import { colord, extend } from 'colord'
import a11yPlugin from 'colord/plugins/a11y'
import fc from 'fast-check'

extend([a11yPlugin])

// The pages of globals.css by day and by night.
const [DAY, NIGHT] = ['#faf7ef', '#1c1a15']

test('contrast is measured as WCAG 2.2 defines it', () => {
  // WCAG 2.2, “contrast ratio”: (L1 + 0.05) / (L2 + 0.05), from 1 to 21; mid grey has a luminance of 0.2159.
  expect(colord('#000').contrast('#fff')).toBe(21)
  expect(colord('#fff').contrast('#fff')).toBe(1)
  expect(colord('#808080').luminance()).toBeCloseTo(0.2159, 2)
})

test('any colour can be read, by day and by night, and what is written on it too', () => {
  const hex = fc.integer({ min: 0, max: 0xffffff }).map((value) => `#${value.toString(16).padStart(6, '0')}`)
  fc.assert(
    fc.property(hex, (colour) => {
      const colours = shopColours(colour)
      for (const [page, shown] of [
        [DAY, colours?.day],
        [NIGHT, colours?.night],
      ] as const) {
        expect(colord(shown?.primary ?? '').contrast(page)).toBeGreaterThanOrEqual(4.5)
        expect(colord(shown?.primary ?? '').contrast(shown?.onPrimary)).toBeGreaterThanOrEqual(4.5)
      }
    }),
  )
})

test('colours with a name stay as they are by day; none leaves the usual one', () => {
  for (const [colour] of NAMED_COLOURS)
    if (colour !== '') expect(shopColours(colour)?.day.primary).toBe(colour)
  expect(shopColours('')).toBeNull()
})

test('what is no colour is refused', () => {
  expect(refusals({ settings: { shopColour: 'green' } })).toEqual([
    expect.stringMatching(/shopColour.*malformed/),
  ])
  expect(refusals({ settings: { shopColour: '#2F6B5C' } })).toEqual([])
})
