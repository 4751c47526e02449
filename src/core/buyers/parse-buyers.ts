import { findMinorDigits } from '../currency/iso-4217'
import { DraftReader } from '../issue/draft-reader'
import type { Parsed } from '../issue/issue'
import { parsePlace } from '../places/iso-3166'
import type { Account, CustomerGroup } from './buyer'

export function parseGroup(draft: CustomerGroup): Parsed<CustomerGroup> {
  const reader = new DraftReader('group', draft.code)
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    position: reader.wholeNumber('position', draft.position, 0),
  })
}

export function parseAccount(draft: Account): Parsed<Account> {
  const reader = new DraftReader('account', draft.code)
  const { country, state } = parsePlace(reader, draft)
  const emails = draft.emails.map((email) => email.trim().toLowerCase())
  for (const email of emails) {
    if (!/^[^\s@]+@[^\s@]+$/.test(email)) reader.report('malformed', 'emails', email, 'name@example.com')
  }
  const addresses = draft.addresses.map((address) => parsePlace(reader, address, 'addresses.'))
  if (draft.currency !== null && findMinorDigits(draft.currency) === null)
    reader.report('unknown', 'currency', draft.currency, 'EUR')
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    country,
    state,
    addresses,
    emails,
  })
}
