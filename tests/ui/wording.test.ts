import { decimal } from '@/core/decimal/decimal'
import type { Issue, IssueCode } from '@/core/issue/issue'
import type { PriceExpressionError } from '@/core/price/price-expression'
import type { PriceMethod } from '@/core/price/lines/price-method'
import type { Refusal } from '@/core/store/refusal'
import { formatDay, formatTime } from '@/ui/format/instant'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { methodPhrase, whatPhrase, whoPhrase } from '@/ui/format/rule-phrases'
import { demoStore } from '@tests/fixtures/demo-store'

const store = demoStore()

test.each([
  [{ kind: 'everyone' }, 'everyone'],
  [{ kind: 'guests' }, 'guests'],
  [{ kind: 'signed-in' }, 'everyone signed in'],
  [{ kind: 'trade' }, 'all trade groups'],
  [{ kind: 'group', group: 'group-farms' }, 'Bee farms'],
  [{ kind: 'group', group: 'gone' }, 'gone'],
  [{ kind: 'tag', tag: 'organic' }, 'accounts tagged “organic”'],
  [{ kind: 'email', email: 'a@example.com' }, 'a@example.com'],
  [{ kind: 'account', account: 'account-fennmoor' }, 'Fennmoor Honey Farm'],
] as const)('%j reads %s', (term, phrase) => expect(whoPhrase(term, store)).toBe(phrase))

test.each([
  [{ kind: 'everything' }, 'everything'],
  [{ kind: 'category', category: 'category-jars', descendants: true }, 'Jars'],
  [{ kind: 'category', category: 'category-jars', descendants: false }, 'Jars, not below'],
  [{ kind: 'attribute', name: 'Fabric', value: 'mesh' }, 'Fabric mesh'],
  [{ kind: 'product', product: 'product-FR-BR' }, 'Brood frames'],
  [{ kind: 'variant', variant: 'variant-FR-BR-PF' }, 'Brood frames FR-BR-PF'],
  [{ kind: 'variant', variant: 'gone' }, 'gone'],
] as const)('%j reads %s', (term, phrase) => expect(whatPhrase(term, store)).toBe(phrase))

test.each<[PriceMethod, string]>([
  [{ kind: 'fixed', amount: decimal('17.6') }, 'fixed at €17.6'],
  [{ kind: 'percent', percent: decimal(-12), reference: { kind: 'base' } }, '12 % off base'],
  [{ kind: 'percent', percent: decimal(5), reference: { kind: 'base' } }, '5 % on base'],
  [{ kind: 'percent', percent: decimal(0), reference: { kind: 'base' } }, 'the base price'],
  [{ kind: 'amount', amount: decimal('-0.6'), reference: { kind: 'base' } }, '€0.6 off base'],
  [{ kind: 'amount', amount: decimal(2), reference: { kind: 'base' } }, '€2 on base'],
])('%j reads %s', (method, phrase) => expect(methodPhrase(method, (amount) => `€${amount}`)).toBe(phrase))

describe('every refusal says what is wrong and what would be right', () => {
  const expression = (error: PriceExpressionError, typed: string): Refusal => ({
    code: 'expression',
    error,
    typed,
    digits: 2,
  })
  test.each<[Refusal, RegExp]>([
    [expression('not-understood', 'abc'), /“abc” is not a price.*19\.90/],
    [expression('comma', '12,5'), /comma.*12\.5/],
    [expression('too-many-digits', '1.005'), /more digits.*2 after the point/],
    [expression('not-positive', '-99'), /“-99”.*above zero/],
    [expression('no-current-price', '+5%'), /needs a price to start from.*19\.90/],
    [expression('no-cost', 'm35'), /needs a cost/],
    [expression('margin-too-high', 'm100'), /below 100 %/],
    [{ code: 'changed-meanwhile', seen: decimal('1.5'), current: null }, /you saw 1\.5, it is now no price/],
    [
      { code: 'stale', label: 'FR-BR', fields: [{ field: 'cost', current: '13', submitted: '12' }] },
      /FR-BR was changed meanwhile\. Cost: “13” now, “12” yours\. Nothing was overwritten/,
    ],
    [{ code: 'unknown', what: 'SKU', value: 'X', nearest: 'Y' }, /no SKU “X”. Did you mean Y/],
    [{ code: 'unknown', what: 'SKU', value: 'X', nearest: null }, /^There is no SKU “X”\.$/],
    [{ code: 'nothing-to-change' }, /already/],
    [{ code: 'past' }, /past/],
  ])('%j', (refusal, sentence) => expect(refusalSentence(refusal)).toMatch(sentence))

  const issue = (code: IssueCode, value: string, expected: string | null = null): Issue => ({
    code,
    kind: 'product',
    label: 'FR-BR',
    field: 'basePrice',
    value,
    expected,
  })
  test.each<[Issue, RegExp]>([
    [issue('malformed', 'sold', 'must be active'), /“sold” cannot be used.*must be active/],
    [issue('missing', ''), /must not be empty/],
    [issue('not-a-decimal', '12,5'), /“12,5” is not an amount.*19\.90/],
    [issue('too-many-digits', '1.005', '2'), /at most 2 after the point/],
    [issue('not-above-zero', '0'), /above zero/],
    [issue('negative', '-1'), /not be below zero/],
    [issue('too-low', '0', '1'), /too low: 1 at least/],
    [issue('too-low', '-100', '-99.99'), /leave nothing/],
    [issue('not-whole', '1.5', '1'), /whole number, 1 at least/],
    [issue('unknown', 'framse', 'frames'), /no “framse”; the nearest is frames/],
    [issue('duplicate', 'FR-BR'), /“FR-BR” is already in use/],
    [issue('cycle', 'A › B › A'), /inside itself: A › B › A/],
    [issue('empty-audience', ''), /somebody it is for/],
    [issue('empty-scope', ''), /something it is for/],
    [issue('unsorted-endings', '0.95, 0.45', '1'), /must rise and stay below 1/],
    [issue('in-use', 'FR', 'a, b'), /because a, b still need it/],
    [issue('in-use', 'FR', 'a'), /because a still needs it/],
    [issue('not-in-axes', 'colour', 'size'), /“colour” where its product asks for size/],
  ])('%j', (each, sentence) => {
    const text = refusalSentence({ code: 'invalid', issues: [each] })
    expect(text).toMatch(/^FR-BR, Base price: /)
    expect(text).toMatch(sentence)
  })

  test('several issues are told one after the other', () =>
    expect(
      refusalSentence({ code: 'invalid', issues: [issue('missing', ''), issue('duplicate', 'X')] }),
    ).toMatch(/empty\. FR-BR.*in use/))
})

test.each([
  ['2026-03-29T00:59:00Z', '29 March 2026', '00:59'],
  ['2026-03-29T01:00:00Z', '29 March 2026', '02:00'],
  ['2026-06-30T23:30:00Z', '1 July 2026', '00:30'],
])('%s is read in the store’s own time, clocks going forward included', (instant, day, time) => {
  expect(formatDay(new Date(instant), 'Europe/Dublin')).toBe(day)
  expect(formatTime(new Date(instant), 'Europe/Dublin')).toBe(time)
})
