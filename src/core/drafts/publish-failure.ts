/** Why a draft could not be published. */
export type PublishFailure =
  | 'conflicts'
  | 'proofs'
  | 'stale'
  | 'invalid'
  | 'nothing-to-change'
  | 'disk-full'
  | 'unreadable'
  | 'drafts-only'
  | 'out-of-reach'
  | 'own-work'
  | 'no-such-draft'
  | 'past-instant'
