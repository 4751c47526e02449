/** Why somebody was not let in, or a password not set. */
type DoorRefused =
  | { readonly code: 'too-short' | 'too-long' | 'easily-guessed' | 'link-gone' | 'wrong' }
  | { readonly code: 'too-many'; readonly minutes: number }

const SENTENCES: Readonly<Record<Exclude<DoorRefused['code'], 'too-many' | 'wrong'>, string>> = {
  'too-short': 'A password has at least 10 characters. A few words in a row are easy to keep in mind.',
  'too-long': 'A password has at most 128 characters.',
  'easily-guessed': 'This one is guessed too easily. Take a few words that have nothing to do with you.',
  'link-gone': 'This link has been used, or its time is over. Ask for another one.',
}

/** What is wrong, as a sentence; `wrong` says what was typed that is not right. */
export function doorSentence(refused: DoorRefused, wrong: string): string {
  if (refused.code === 'too-many')
    return `That was tried too often. Try again in ${refused.minutes === 1 ? 'a minute' : `${refused.minutes} minutes`}.`
  return refused.code === 'wrong' ? wrong : SENTENCES[refused.code]
}
