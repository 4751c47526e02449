import { findDefaultChannel, placeFacts, type Region, regionsOf } from '@/core/places/place'
import { countWhere, matchWhere, type PlaceFacts, type Where } from '@/core/predicates/where'

const facts = (
  channel: string,
  regions: readonly string[],
  channelGroups: readonly string[] = [],
): PlaceFacts => ({
  channel,
  channelGroups,
  regions,
})
const where = (include: Where['include'], exclude: Where['exclude'] = []): Where => ({ include, exclude })
const web = { kind: 'channel', channel: 'web' } as const
const online = { kind: 'channel-group', group: 'Online' } as const
const home = { kind: 'region', region: 'home' } as const
const isles = { kind: 'region', region: 'isles' } as const

test.each<[string, Where, PlaceFacts, boolean]>([
  ['an empty place is everywhere', where([]), facts('web', []), true],
  ['one channel of several', where([web, { kind: 'channel', channel: 'desk' }]), facts('desk', []), true],
  ['a group of channels', where([online]), facts('web', [], ['Online']), true],
  ['a channel and a region must both hold', where([web, home]), facts('web', ['isles']), false],
  ['one of two regions', where([web, home, isles]), facts('web', ['isles']), true],
  ['an exclusion beats an inclusion', where([web], [home]), facts('web', ['home']), false],
])('%s', (_reason, rule, place, holds) => expect(matchWhere(rule, place).matches).toBe(holds))

test('a region says more than a channel, a channel more than its group', () => {
  const specificity = (rule: Where) => {
    const match = matchWhere(rule, facts('web', ['home'], ['Online']))
    return match.matches ? match.specificity : -1
  }
  const rising = [
    where([]),
    where([online]),
    where([web]),
    where([home]),
    where([online, home]),
    where([web, home]),
  ]
  const values = rising.map(specificity)
  expect(values).toEqual([...values].sort((left, right) => left - right))
  expect(new Set(values).size).toBe(rising.length)
})

test('why a place does not hold, and how many do', () => {
  expect(matchWhere(where([web]), facts('desk', []))).toMatchObject({ because: 'other-channel' })
  expect(matchWhere(where([home]), facts('desk', ['isles']))).toMatchObject({ because: 'other-region' })
  expect(matchWhere(where([], [home]), facts('web', ['home']))).toMatchObject({
    because: 'excluded',
    by: home,
  })
  expect(countWhere(where([home]), [facts('web', ['home']), facts('web', []), facts('desk', ['home'])])).toBe(
    2,
  )
})

const region = (id: string, countries: readonly string[], position: number, isDefault = false): Region => ({
  id,
  code: id,
  name: id,
  countries,
  currency: null,
  rounding: null,
  taxDisplay: 'gross',
  cartTaxDisplay: 'gross',
  isDefault,
  position,
  status: 'active',
})

test('a region that names the state comes before one that names the country; the rest is the default', () => {
  const regions = new Map(
    [
      region('america', ['US', 'CA'], 0),
      region('west', ['US-CA', 'US-OR'], 1),
      region('rest', [], 2, true),
    ].map((each) => [each.id, each]),
  )
  const ids = (country: string, state = '') =>
    regionsOf(regions, { country, state, postcode: '', city: '' }).map(({ id }) => id)
  expect(ids('US', 'CA')).toEqual(['west', 'america'])
  expect(ids('US', 'NY')).toEqual(['america'])
  expect(ids('IE')).toEqual(['rest'])
  expect(placeFacts(null, []).channel).toBe('')
  expect(findDefaultChannel(new Map())).toBeNull()
})
