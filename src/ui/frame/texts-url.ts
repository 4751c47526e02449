/** What is typed and not saved stands in the address, so that neither a reload nor a link loses it. */
const FIELD = 'would'
/** Longer addresses are refused by servers on the way. */
const LONGEST = 6_000

type Texts = Readonly<Record<string, string>>

/** Holds  `parseTexts(serializeTexts(texts))` is `texts`. */
export function parseTexts(fields: { get(name: string): string | null }): Texts {
  try {
    const read: unknown = JSON.parse(fields.get(FIELD) ?? '{}')
    if (typeof read !== 'object' || read === null) return {}
    return Object.fromEntries(
      Object.entries(read).filter((entry): entry is [string, string] => typeof entry[1] === 'string'),
    )
  } catch {
    return {}
  }
}

/** An address with what is typed in it; `null` when that would be too long for one. */
export function withTextsInUrl(path: string, search: string, texts: Texts): string | null {
  const fields = new URLSearchParams(search)
  if (Object.keys(texts).length === 0) fields.delete(FIELD)
  else fields.set(FIELD, JSON.stringify(texts))
  const query = fields.toString()
  if (query.length > LONGEST) return null
  return query === '' ? path : `${path}?${query}`
}
