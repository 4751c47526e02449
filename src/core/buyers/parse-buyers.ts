import { findMinorDigits } from '../currency/iso-4217'
import { InputReader } from '../issue/input-reader'
import type { Parsed } from '../issue/issue'
import { parsePlace } from '../places/iso-3166'
import type { Account, CustomerGroup } from './buyer'

export function parseGroup(input: CustomerGroup): Parsed<CustomerGroup> {
  const reader = new InputReader('group', input.code)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    position: reader.wholeNumber('position', input.position, 0),
  })
}

export function parseAccount(input: Account): Parsed<Account> {
  const reader = new InputReader('account', input.code)
  const { country, state } = parsePlace(reader, input)
  const emails = input.emails.map((email) => email.trim().toLowerCase())
  for (const email of emails) {
    if (!/^[^\s@]+@[^\s@]+$/.test(email)) reader.report('malformed', 'emails', email, 'name@example.com')
  }
  const addresses = input.addresses.map((address) => parsePlace(reader, address, 'addresses.'))
  if (input.currency !== null && findMinorDigits(input.currency) === null)
    reader.report('unknown', 'currency', input.currency, 'EUR')
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    country,
    state,
    addresses,
    emails,
  })
}
