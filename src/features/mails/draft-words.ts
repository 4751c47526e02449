import { failureSentence } from '@/ui/format/draft-phrases'
import { formatMoment } from '@/ui/format/instant'
import { type MailWords, NO_LINES } from './mail-words'

/** That a draft which was to be published by itself was not, and why. */
export function notPublishedWords(
  { name, code }: { readonly name: string; readonly code: string },
  { due, failure }: { readonly due: number; readonly failure: string },
  timeZone: string,
): MailWords {
  return {
    subject: `“${name}” was not published`,
    preview: failureSentence(failure),
    title: 'A draft was not published',
    paragraphs: [
      `“${name}” was to be published on ${formatMoment(due, timeZone)}. ${failureSentence(failure)}`,
      'It is a draft still, with everything in it, and is not tried again by itself.',
    ],
    ...{ ...NO_LINES, action: { label: 'Look at the draft', path: `/drafts/${code}` } },
  }
}
