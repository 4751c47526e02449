/** Whether a text is an e-mail address, as far as it can be told from how it is written. */
export function isEmail(text: string): boolean {
  return text.length <= 254 && /^[^\s@]+@[^\s@]+$/.test(text)
}
