/** How the stand-in for a service of reference rates behaves. */
export const RATE_MOODS = ['well', 'late', 'leaping', 'wrong', 'missing'] as const
export type RateMood = (typeof RATE_MOODS)[number]

/** Invented: what one euro is worth, about which the days go up and down. */
const AROUND: Readonly<Record<string, number>> = {
  USD: 1.085,
  JPY: 162.5,
  DKK: 7.4605,
  GBP: 0.8712,
  SEK: 11.31,
  CHF: 0.9483,
  NOK: 11.78,
  PLN: 4.287,
}

const DAY = 86_400_000
/** The hour at which the day's rates are there (common practice: 16:00 in Frankfurt). */
const HOUR = 15 * 3_600_000
/** The one that leaps when something does, by so much. */
const LEAPING = { code: 'NOK', times: 1.083 }
const LATE_DAYS = 9

/**
 * A file of reference rates as the European Central Bank lays it out (checks.md, 7.4: from memory), with invented figures that are the
 * same each time for the same day. Weekends have none.
 *
 * now   epoch milliseconds
 * days  how many working days the file holds, the newest first
 */
export function simulatedRates(now: number, days: number, mood: RateMood): string {
  if (mood === 'wrong') return '<html><body>Service under maintenance</body></html>'
  const last = mood === 'late' ? now - LATE_DAYS * DAY : now
  const cubes = workingDays(last, days).map((day, at) => {
    const rates = Object.entries(AROUND)
      .filter(([code]) => mood !== 'missing' || code !== LEAPING.code)
      .map(([code, around]) => {
        const leap = mood === 'leaping' && at === 0 && code === LEAPING.code ? LEAPING.times : 1
        const rate = (around * leap * (1 + wobble(day, code))).toPrecision(5)
        return `   <Cube currency='${code}' rate='${Number(rate)}'/>`
      })
    return `  <Cube time='${day}'>\n${rates.join('\n')}\n  </Cube>`
  })
  return `<?xml version="1.0" encoding="UTF-8"?>
<gesmes:Envelope xmlns:gesmes="http://www.gesmes.org/xml/2002-08-01" xmlns="http://www.ecb.int/vocabulary/2002-08-01/eurofxref">
 <gesmes:subject>Reference rates</gesmes:subject>
 <gesmes:Sender><gesmes:name>Simulated reference rates</gesmes:name></gesmes:Sender>
 <Cube>
${cubes.join('\n')}
 </Cube>
</gesmes:Envelope>
`
}

function workingDays(now: number, count: number): readonly string[] {
  const found: string[] = []
  for (let at = now - HOUR; found.length < count; at -= DAY) {
    const date = new Date(at)
    if (date.getUTCDay() % 6 !== 0) found.push(date.toISOString().slice(0, 10))
  }
  return found
}

/** Up to six thousandths either way, told from the day alone. */
function wobble(day: string, code: string): number {
  let hash = 7
  for (const character of day + code) hash = (hash * 31 + character.charCodeAt(0)) % 9_973
  return ((hash % 121) - 60) / 10_000
}
