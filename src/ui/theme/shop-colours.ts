import { colord, extend } from 'colord'
import a11yPlugin from 'colord/plugins/a11y'

extend([a11yPlugin])

/** What the shop is drawn with in one of its themes. */
export interface ShopColours {
  /** Buttons, the shop’s name, lines under words. */
  readonly primary: string
  /** What is written on it. */
  readonly onPrimary: string
}

/** Text is read easily from this contrast on (WCAG 2.2, success criterion 1.4.3). */
const LEAST_CONTRAST = 4.5

/** The page, and the two inks of each theme, as in globals.css. */
const DAY = { page: '#faf7ef', step: -0.02 } as const
const NIGHT = { page: '#1c1a15', step: 0.02 } as const
const INKS = ['#fffdf6', '#191710'] as const

/** Colours that go with everything the shop shows, by name. */
export const NAMED_COLOURS: readonly (readonly [colour: string, name: string])[] = [
  ['', 'moss green'],
  ['#2f6b5c', 'lake green'],
  ['#1f5f8a', 'river blue'],
  ['#3f4a8c', 'ink blue'],
  ['#70356a', 'plum'],
  ['#9a2f3c', 'berry red'],
  ['#a04a16', 'brick'],
  ['#8a5f00', 'honey'],
  ['#4b5157', 'slate'],
]

export function colourName(colour: string): string {
  return NAMED_COLOURS.find(([each]) => each === colour)?.[1] ?? colour
}

/**
 * A colour as the shop uses it by day and by night: made darker or lighter where it could not be read.
 *
 * Errors  `null` for no colour: the shop keeps its usual one.
 */
export function shopColours(
  colour: string,
): { readonly day: ShopColours; readonly night: ShopColours } | null {
  if (colour === '') return null
  return { day: readableOn(colour, DAY), night: readableOn(colour, NIGHT) }
}

function readableOn(
  colour: string,
  { page, step }: { readonly page: string; readonly step: number },
): ShopColours {
  let primary = colord(colour)
  // Black reads on any day page and white on any night page, so this ends.
  // What is drawn is rounded to whole steps of red, green and blue, so that is what is measured.
  while (primary.contrast(page) < LEAST_CONTRAST) primary = colord(primary.lighten(step).toHex())
  const [first, second] = INKS
  const onPrimary = primary.contrast(first) >= primary.contrast(second) ? first : second
  return { primary: primary.toHex(), onPrimary }
}
