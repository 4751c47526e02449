import 'server-only'

/** A code as an address has it; one whose percent signs mean nothing is taken as it stands. */
export function addressWord(text: string): string {
  try {
    return decodeURIComponent(text)
  } catch {
    return text
  }
}
