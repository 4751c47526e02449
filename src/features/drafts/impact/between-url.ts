const DAY = 86_400_000
const USUAL_DAYS = 30

/** The two instants an address means, in their order; the last 30 days where it says nothing, or nonsense. */
export function parseBetween(
  fields: Readonly<Record<string, string | undefined>>,
  now: number,
): { readonly since: Date; readonly until: Date } {
  const read = (text: string | undefined, usual: number) => {
    const at = Date.parse(text ?? '')
    return Number.isFinite(at) ? at : usual
  }
  const until = read(fields['until'], now)
  const since = read(fields['since'], Math.min(until, now) - USUAL_DAYS * DAY)
  return { since: new Date(Math.min(since, until)), until: new Date(Math.max(since, until)) }
}
