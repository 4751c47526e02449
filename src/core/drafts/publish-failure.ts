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
  | 'no-such-draft'
  | 'past-instant'
