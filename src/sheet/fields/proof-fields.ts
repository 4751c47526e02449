import 'server-only'

import { typedAmount } from '@/core/decimal/written-amount'
import { CLAIMS, type Proof } from '@/core/proofs/proof'
import { CLAIM_PHRASES, proofValue } from '@/ui/format/proof-phrases'
import { choiceField, codeField, type FieldRule, optionalField, textField } from './field-rule'
import { audience, code, name, onOff, place, schedule, scope } from './shared-fields'

const valueField = optionalField([
  'value',
  'How much',
  'An amount without tax as prices are entered, a percentage, or a quantity: as what is said of them wants.',
])

const value: FieldRule = {
  ...valueField,
  phrase: (record, store) => proofValue(record as unknown as Proof, store),
  read: (text, ...rest) => valueField.read(typedAmount(text.replace(/\s*%\s*$/, '')), ...rest),
}

export const PROOF_FIELDS: readonly FieldRule[] = [
  name,
  code,
  onOff,
  audience,
  textField(['quantity', 'Buying', 'How many of one item.']),
  choiceField(
    ['claim', 'What is true of them'],
    CLAIMS.map((claim) => [claim, CLAIM_PHRASES[claim]] as const),
  ),
  value,
  codeField(['currency', 'Paying in', 'Empty is the store’s own currency.'], 'currency', true),
  scope,
  place,
  schedule,
  choiceField(
    ['isBlocking', 'A publication that breaks it'],
    [
      [true, 'is stopped'],
      [false, 'only warns'],
    ],
  ),
  textField(['reason', 'Why', 'For whoever asks later: “Promised by phone, 12 January”.']),
]
