import { isEmail } from './email'
import { findMinorDigits } from '../currency/iso-4217'
import { InputReader } from '../issue/input-reader'
import { findNearest, type Parsed } from '../issue/issue'
import { parsePlace } from '../places/iso-3166'
import type { Account, CustomerGroup, Person } from './buyer'

export function parseGroup(input: CustomerGroup): Parsed<CustomerGroup> {
  const reader = new InputReader('group', input.code)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    position: reader.wholeNumber('position', input.position, 0),
  })
}

type AccountInput = Omit<Account, 'people'> & {
  readonly people: readonly (Omit<Person, 'limit'> & { readonly limit: string | null })[]
}
export type { AccountInput }

export function parseAccount(input: AccountInput, digits: number): Parsed<Account> {
  const reader = new InputReader('account', input.code)
  const { country, state } = parsePlace(reader, input)
  const emails = input.emails.map((email) => email.trim().toLowerCase())
  for (const email of emails) {
    if (!isEmail(email)) reader.report('malformed', 'emails', email, 'name@example.com')
  }
  const addresses = input.addresses.map((address) => parsePlace(reader, address, 'addresses.'))
  if (input.currency !== null && findMinorDigits(input.currency) === null)
    reader.report('unknown', 'currency', input.currency, 'EUR')
  const people = input.people.map(({ name, email, approves, limit }): Person => {
    const address = email.trim().toLowerCase()
    if (!emails.includes(address))
      reader.report('unknown', 'people.email', email, findNearest(address, emails) ?? emails[0] ?? null)
    return {
      name: reader.text('people.name', name),
      email: address,
      approves,
      limit: reader.optionalDecimal('people.limit', limit, { digits, sign: 'not-negative' }),
    }
  })
  const twice = people.find(({ email }, at) => people.findIndex((each) => each.email === email) !== at)
  if (twice) reader.report('duplicate', 'people.email', twice.email)
  const isHeldBack = people.some(({ limit }) => limit !== null)
  if (isHeldBack && !people.some(({ approves }) => approves))
    reader.report('missing', 'people.approves', '', 'somebody who approves')
  return reader.result({
    ...input,
    people,
    ...reader.codeAndName(input),
    country,
    state,
    addresses,
    emails,
  })
}
