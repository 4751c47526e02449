/** What opens when the word of a field is clicked. */
export type ControlKind =
  | 'text'
  | 'long-text'
  | 'choice'
  | 'records'
  | 'who'
  | 'what'
  | 'when'
  | 'where'
  | 'rounding'
  | 'pairs'
  | 'own-amounts'
  | 'assortment'
  | 'price-rule'
  | 'picture'
  | 'colour'
  /** Edited in a drawing of its own on the sheet. */
  | 'on-sheet'
