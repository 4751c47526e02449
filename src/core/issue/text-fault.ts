/** Where something submitted holds what is no text, or lies too deep. */
export interface TextFault {
  readonly code: 'not-text' | 'too-deep'
  /** `lines.3.name`; empty for the whole. */
  readonly where: string
}

/**
 * Looks through a submitted value for texts no database keeps (a null, half of a surrogate pair), and for nesting
 * beyond so many levels. Walks without calling itself, so that no depth can end the process.
 *
 * Errors  `null` when there is nothing of the kind.
 */
export function findTextFault(value: unknown, deepest: number): TextFault | null {
  const open: { readonly value: unknown; readonly where: string; readonly depth: number }[] = [
    { value, where: '', depth: 0 },
  ]
  for (let next = open.pop(); next; next = open.pop()) {
    const { value: current, where, depth } = next
    if (typeof current === 'string' && !isText(current)) return { code: 'not-text', where }
    if (current === null || typeof current !== 'object') continue
    if (depth >= deepest) return { code: 'too-deep', where }
    for (const [field, inner] of Object.entries(current)) {
      const inside = where === '' ? field : `${where}.${field}`
      if (!isText(field)) return { code: 'not-text', where }
      if (typeof inner === 'string' || typeof inner === 'object')
        open.push({ value: inner, where: inside, depth: depth + 1 })
    }
  }
  return null
}

function isText(text: string): boolean {
  return !text.includes('\0') && text.isWellFormed()
}
