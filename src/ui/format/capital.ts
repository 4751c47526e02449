/** A phrase as a sentence begins with it. */
export function capital(phrase: string): string {
  return phrase.charAt(0).toUpperCase() + phrase.slice(1)
}
