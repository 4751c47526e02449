import type { PublishFailure } from '@/core/drafts/publish-failure'

const FAILURES: Readonly<Record<PublishFailure, string>> = {
  conflicts: 'live prices had changed the same things meanwhile, and the conflicts were not settled',
  proofs: 'it would have broken proofs',
  stale: 'live prices were being changed at that moment',
  invalid: 'something in it did not fit the store any more',
  'nothing-to-change': 'there was nothing in it',
  'disk-full': 'the disk was nearly full',
  unreadable: 'the store could not have been read with it',
  'drafts-only': 'it was to count at once in a store that is changed by drafts',
  'out-of-reach': 'it reached further than whoever published it works',
  'own-work': 'whoever published it had worked on it, and this store wants a second person',
  'no-such-draft': 'it had ended already',
  'past-instant': 'its time was over',
}

/** Why a planned draft was not published. */
export function failureSentence(code: string): string {
  return `It was not published when it was to be: ${FAILURES[code as PublishFailure] ?? code}.`
}
