import { decimal } from '@/core/decimal/decimal'
import { countWhat, type ItemFacts, matchWhat, type WhatTerm } from '@/core/predicates/what'
import { type BuyerFacts, countWho, matchWho, type WhoTerm } from '@/core/predicates/who'

const guest: BuyerFacts = {
  account: null,
  signedIn: false,
  groups: [],
  trade: false,
  tags: [],
  emails: [],
  passcode: null,
}
const farm: BuyerFacts = {
  account: 'ada',
  signedIn: true,
  groups: ['farms'],
  trade: true,
  tags: ['organic'],
  emails: ['ada@example.com'],
  passcode: null,
}

describe('who', () => {
  const terms: readonly (readonly [WhoTerm, boolean, boolean])[] = [
    [{ kind: 'everyone' }, true, true],
    [{ kind: 'guests' }, true, false],
    [{ kind: 'signed-in' }, false, true],
    [{ kind: 'trade' }, false, true],
    [{ kind: 'group', group: 'farms' }, false, true],
    [{ kind: 'group', group: 'shops' }, false, false],
    [{ kind: 'tag', tag: 'organic' }, false, true],
    [{ kind: 'email', email: 'ada@example.com' }, false, true],
    [{ kind: 'account', account: 'ada' }, false, true],
    [{ kind: 'account', account: 'ben' }, false, false],
  ]
  test.each(terms)('%j holds a guest: %p, a farm: %p', (term, holdsGuest, holdsFarm) => {
    const who = { include: [term], exclude: [] }
    expect(matchWho(who, guest).matches).toBe(holdsGuest)
    expect(matchWho(who, farm).matches).toBe(holdsFarm)
    expect(countWho(who, [guest, farm])).toBe(Number(holdsGuest) + Number(holdsFarm))
  })

  test('the most specific term is the one that counts: account > tag > group > trade > signed in > everyone', () => {
    const order: WhoTerm[] = [
      { kind: 'account', account: 'ada' },
      { kind: 'tag', tag: 'organic' },
      { kind: 'group', group: 'farms' },
      { kind: 'trade' },
      { kind: 'signed-in' },
      { kind: 'everyone' },
    ]
    for (let from = 0; from < order.length; from += 1) {
      const match = matchWho({ include: order.slice(from).reverse(), exclude: [] }, farm)
      expect(match).toMatchObject({ matches: true, by: order[from] })
    }
  })

  test('an exclusion beats an inclusion, and says which', () => {
    const exclude: WhoTerm[] = [{ kind: 'account', account: 'ada' }]
    expect(matchWho({ include: [{ kind: 'trade' }], exclude }, farm)).toEqual({
      matches: false,
      because: 'excluded',
      by: exclude[0],
    })
  })
})

describe('what', () => {
  const frame: ItemFacts = {
    variant: 'frame-s',
    product: 'frame',
    categories: new Map([
      ['frames', 0],
      ['timber', 1],
      ['all', 2],
    ]),
    attributes: { size: 's' },
    family: 'wax',
    basePrice: decimal('19.90'),
    stock: 'in-stock',
    extra: null,
  }
  const terms: readonly (readonly [WhatTerm, boolean])[] = [
    [{ kind: 'everything' }, true],
    [{ kind: 'category', category: 'all', descendants: true }, true],
    [{ kind: 'category', category: 'all', descendants: false }, false],
    [{ kind: 'category', category: 'frames', descendants: false }, true],
    [{ kind: 'category', category: 'jars', descendants: true }, false],
    [{ kind: 'attribute', name: 'size', value: 's' }, true],
    [{ kind: 'attribute', name: 'size', value: 'm' }, false],
    [{ kind: 'product', product: 'frame' }, true],
    [{ kind: 'variant', variant: 'frame-m' }, false],
  ]
  test.each(terms)('%j reaches it: %p', (term, reaches) => {
    expect(matchWhat({ include: [term], exclude: [] }, frame).matches).toBe(reaches)
    expect(countWhat({ include: [term], exclude: [] }, [frame, frame])).toBe(reaches ? 2 : 0)
  })

  test('variant > product > attribute > category, nearest first > everything', () => {
    const order: WhatTerm[] = [
      { kind: 'variant', variant: 'frame-s' },
      { kind: 'product', product: 'frame' },
      { kind: 'attribute', name: 'size', value: 's' },
      { kind: 'category', category: 'frames', descendants: true },
      { kind: 'category', category: 'timber', descendants: true },
      { kind: 'category', category: 'all', descendants: true },
      { kind: 'everything' },
    ]
    const specificities = order.map((term) => {
      const match = matchWhat({ include: [term], exclude: [] }, frame)
      return match.matches ? match.specificity : null
    })
    expect(specificities).toEqual([...specificities].sort((left, right) => Number(right) - Number(left)))
    expect(new Set(specificities).size).toBe(order.length)
  })

  test('an exclusion beats an inclusion, and says which', () =>
    expect(
      matchWhat(
        { include: [{ kind: 'everything' }], exclude: [{ kind: 'product', product: 'frame' }] },
        frame,
      ),
    ).toMatchObject({ matches: false, because: 'excluded', by: { kind: 'product' } }))
})
