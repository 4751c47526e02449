import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { Vantage } from '@/core/engine/context/vantage'
import { loadTrace } from '@/features/trace/load-trace'
import type { TraceView } from '@/features/trace/trace-view'
import type { TracePart } from '@/ui/trace/trace-part'
import { lookAs } from '@tests/fixtures/demo-request'

async function trace(as: BuyerCode, sku: string, vantage: Partial<Vantage> = {}): Promise<TraceView> {
  const loaded = await loadTrace(lookAs(as, vantage), sku)
  if (!loaded.ok) throw new Error(loaded.problem)
  return loaded.value
}

const text = (parts: readonly TracePart[]) => parts.map((part) => part.text).join(' ')

test('a level: base, what comes off, rounding, and who lost', async () => {
  const view = await trace('group:bee-farms', 'FR-BR-PF')
  expect(view.headline).toBe('is what a buyer in Bee farms pays for Brood frames, Pine, flat-packed, 10')
  expect(view.steps.map(({ parts, amount }) => `${text(parts)} = ${amount}`)).toEqual([
    'Base price set on the product = 25.9',
    'Bee farm level 12 % off base, its price for all other items = 22.792',
    'To the nearest 0.05 = 22.8',
  ])
  expect(view.losers.map(({ parts, reason }) => `${text(parts)} ${reason}`)).toEqual([
    'Spring build-up 2027 starts 1 Mar 2027',
    'Spring clear-out 2026 is switched off',
  ])
  expect(view.silent.map((part) => part.text)).toEqual([
    'Trade packaging by the pallet',
    'Readers with an account',
    'Winter feed offer',
  ])
  expect(view.steps[1]?.parts[0]?.href).toBe('/price-lists/bee-farm-level')
})

test('an account’s own list stands above its group’s, and says what would come without it', async () => {
  const view = await trace('account:fennmoor', 'FR-BR-PF')
  expect(view.unit).toBe('21.65')
  expect(view.losers.map(({ parts, reason, price }) => `${text(parts)} ${reason} ${price}`)[0]).toBe(
    'Bee farm level lists of a contract come before lists for their group 22.8',
  )
  expect(view.wouldChange.map(({ parts, outcome }) => `${text(parts)} ${outcome}`)).toEqual([
    'Without Fennmoor agreed prices then Bee farm level €22.80',
  ])
})

test('within a list the line that names the item more closely wins, and the others are named', async () => {
  const view = await trace('group:bee-farms', 'WF-BR-W100')
  expect(view.losers.slice(0, 2).map(({ parts, price }) => `${text(parts)} ${price}`)).toEqual([
    'Bee farm level for Foundation: 116.95',
    'Bee farm level for all other items: 119.7',
  ])
  expect(text(view.wouldChange[0]?.parts ?? [])).toBe(
    'Without that line of Bee farm level then Bee farm level for Foundation:',
  )
})

test('ranks, tags, exclusions and e-mail addresses are explained', async () => {
  const reasons = async (as: BuyerCode, sku: string) => {
    const { losers, others } = await trace(as, sku)
    return [...losers, ...others].map(({ parts, reason }) => `${text(parts)} ${reason}`)
  }
  expect(await reasons('account:tarnside', 'PK-JH-110')).toContain(
    'Trade packaging by the pallet has rank 2, the deciding list has rank 1',
  )
  expect(await reasons('account:northern-skep', 'PK-JH-110')).toContain(
    'Trade packaging by the pallet leaves out Northern Skep Trading',
  )
  expect(await reasons('account:gorseback', 'WF-BR-O10')).toContain(
    'Bee farm level has the same rank, but the other list names this more closely',
  )
  expect(
    (await trace('account:glenmarra-college', 'HV-NAT-PF')).steps.map(({ parts }) => text(parts))[1],
  ).toBe('Glenmarra teaching apiary 15 % off base for Hives')
})

test('no price is explained as fully as a price', async () => {
  const view = await trace('guest', 'HH-OX-275')
  expect(view.unit).toBeNull()
  expect(view.steps).toEqual([])
  expect(view.losers.map(({ parts, reason }) => `${text(parts)} ${reason}`)).toContain(
    'Winter feed offer for Oxalic treatment: starts from base, and there is none',
  )
  expect(text(view.wouldChange[0]?.parts ?? [])).toBe('Set a base price')
})

test('a contract, its break and its place in the ladder are told', async () => {
  const view = await trace('account:fennmoor', 'FR-BR-PF', { buying: 20 })
  expect(view.unit).toBe('21')
  expect(view.steps.map(({ parts }) => text(parts))[1]).toBe(
    'Fennmoor agreed prices 19 % off base from 20 on, everything counted together for Frames through contract C-104',
  )
  expect(view.total).toBe('420')
  expect(view.breaks.map(({ from, unit }) => `${from} ${unit}`)).toEqual(['1 21.65', '20 21', '100 20.2'])
})

test('a list that starts from another one shows both, and what was converted says at which rate', async () => {
  const derived = (await trace('account:fennmoor', 'WF-BR-W100')).steps.map(({ parts }) => text(parts))
  expect(derived).toContain('Bee farm level as this list starts from it')
  const converted = (await trace('account:gwen-pritchard', 'HV-NAT-PF')).steps.map(({ parts }) => text(parts))
  expect(converted).toContainEqual(
    expect.stringMatching(/^Into GBP 1 EUR = 0\.86984 GBP since 2 Nov 2026, 1\.5 % fee$/),
  )
})

test('an amount set in a currency of its own is not converted', async () => {
  const steps = (await trace('account:gwen-pritchard', 'FR-BR-PF')).steps.map(
    ({ parts, amount }) => `${text(parts)} ${amount}`,
  )
  expect(steps[0]).toBe('Base price in GBP set on the product 21.9')
  expect(steps.join()).not.toContain('Into GBP')
})

test('moving the date shows a list that starts later', async () => {
  const from = async (on: string) =>
    (await trace('guest', 'HV-NAT-PF', { on })).steps.map(({ parts }) => text(parts)).join()
  expect(await from('2027-02-28T23:00Z')).not.toContain('Spring build-up')
  expect(await from('2027-03-01T00:00Z')).toContain('Spring build-up 2027 10 % off base for Hives')
})

test('promotions say what they leave of a price, and why they do not', async () => {
  const suit = await trace('guest', 'CL-JK-2XL', { on: '2026-11-27T10:00Z' })
  expect(suit.promoted?.by).toBe('Suits in winter')
  const section = suit.terms.find(({ title }) => title === 'Promotions, bought alone')
  expect(section?.lines.map(({ parts }) => text(parts))).toContain('Suits in winter 15 % less')
  const jars = await trace('guest', 'PK-JH-110', { on: '2026-11-27T10:00Z' })
  expect(jars.promoted).toBeNull()
  expect(
    jars.terms
      .find(({ title }) => title === 'Promotions, bought alone')
      ?.lines.map(({ parts }) => text(parts)),
  ).toContain('The thirteenth jar close: 11 more units make it hold')
})

test('an unknown SKU is answered with the nearest one', async () => {
  expect(await loadTrace(lookAs('guest'), 'FR-BR-PX')).toEqual({
    ok: false,
    problem: 'There is no SKU “FR-BR-PX”. Did you mean FR-BR-PA?',
  })
})
