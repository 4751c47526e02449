import { decimal } from '@/core/decimal/decimal'
import { copiedText, rangeFacts } from '@/features/board/cells/board-facts'
import { editableCell, planPaste, whyNotTyped } from '@/features/board/edits/board-edits'
import { layOutRows } from '@/features/board/rows/board-rows'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import type { BoardView } from '@/features/board/board-view'
import { loadBoard } from '@/features/board/load-board'
import {
  asShownWhole,
  countEditable,
  planFillDown,
  planRange,
  readRangeRule,
} from '@/features/board/edits/range-edit'
import { rangeFigures } from '@/features/board/edits/range-figures'
import { parseBoardFilter } from '@/features/board/rows/board-url'
import { lookAs } from '@tests/fixtures/demo-request'

const [BASE, GUEST] = [1, 3]
let view: BoardView
let rows: ReturnType<typeof layOutRows>
let CLUB: number
let ownBase: number
beforeAll(async () => {
  view = await loadBoard(lookAs('guest'), parseBoardFilter(new URLSearchParams()))
  rows = layOutRows(view.counts, new Set())
  CLUB = 3 + view.columns.findIndex(({ title }) => title === 'Club members')
  ownBase = rows.findIndex((_, row) => rowAt(row).variant?.ownBase && rowAt(row).place?.kind === 'variant')
})
const rowAt = (row: number) => {
  const place = rows[row]
  const product = place && view.firstBlock[place.product]
  return { place, product, variant: place?.kind === 'variant' ? product?.variants[place.variant] : undefined }
}
const cellAt = (row: number, column: number) => editableCell(view, rowAt(row), column)

test('a base price goes to the variant that has its own, else to what it is taken over from', () => {
  expect(cellAt(ownBase, BASE)?.edit('9')).toMatchObject({ record: 'variant', typed: '9' })
  const product = rows.findIndex(({ kind }) => kind === 'product')
  expect(cellAt(product, BASE)?.edit('9')).toMatchObject({ record: 'product' })
})

test('a buyer’s price goes into their own list; who has none is not edited', () => {
  expect(cellAt(ownBase, CLUB)?.edit('9')).toMatchObject({ kind: 'list-price', from: { as: 'group:club' } })
  expect(cellAt(ownBase, GUEST)).toBeNull()
})

test('typing over what nobody can type over says what would have to change', () => {
  expect(whyNotTyped(view, rowAt(ownBase), GUEST)).toMatch(
    /^Guests have no price list of their own.*base price/,
  )
  expect(whyNotTyped(view, rowAt(ownBase), BASE + 1)).toMatch(/Costs are edited on the product’s sheet/)
  expect(whyNotTyped(view, rowAt(ownBase), 0)).toBeNull()
})

test('nothing of the past is edited', () => {
  expect(editableCell({ ...view, live: false }, rowAt(ownBase), BASE)).toBeNull()
})

test('copied cells are plain: a SKU, an amount without separators, words where there is no amount', () => {
  const { variant } = rowAt(ownBase)
  expect(copiedText(view, 'price', rowAt(ownBase), 0)).toBe(variant?.sku)
  expect(copiedText(view, 'price', rowAt(ownBase), BASE)).toMatch(/^\d+\.\d\d$/)
  expect(copiedText(view, 'source', rowAt(ownBase), GUEST)).toBe('base price')
  expect(copiedText(view, 'price', rowAt(rows.length + 5), BASE)).toBe('')
})

test('a range says its figures, the base price of its rows among them, and what is still being read', () => {
  const range = { top: ownBase, bottom: ownBase, left: BASE, right: BASE }
  expect(rangeFacts(view, range, rowAt)[0]).toBe('1 price')
  expect(rangeFacts(view, { ...range, left: 0, right: 0 }, rowAt)).toEqual(['no prices chosen'])
  expect(rangeFacts(view, { ...range, bottom: rows.length + 1, top: ownBase }, rowAt).at(-1)).toMatch(
    /rows not read yet$/,
  )
})

describe('a pasted block', () => {
  const paste = (...cells: readonly (readonly [number, string])[]) =>
    planPaste(
      view,
      cells.map(([column, text]) => ({ row: ownBase, column, text })),
      rowAt,
    )
  const current = () => cellAt(ownBase, BASE)?.current ?? decimal(0)

  test('says what each figure was and becomes, and what is the same already', () => {
    const plan = paste([BASE, '1,234.50'], [CLUB, '€ 9.90'])
    expect(plan.changes.map(({ before, after }) => [before, after])).toEqual([
      [current(), '1234.5'],
      [cellAt(ownBase, CLUB)?.current, '9.9'],
    ])
    expect(paste([BASE, current()])).toMatchObject({ changes: [], unchanged: 1, problems: [] })
  })

  test('may be written with commas, and in expressions', () => {
    expect(paste([BASE, '12,50'], [CLUB, '9,90']).changes.map(({ after }) => after)).toEqual(['12.5', '9.9'])
    expect(paste([BASE, '+1']).changes).toHaveLength(1)
  })

  test('leaves cells where nothing was pasted', () => {
    expect(paste([BASE, '']).changes).toEqual([])
  })

  test('names what cannot be, and keeps the rest', () => {
    const plan = paste([GUEST, '5'], [BASE, 'cheap'], [0, 'Name'], [2, '4'], [CLUB, '9.90'])
    expect(plan.changes).toHaveLength(1)
    expect(plan.problems.map(({ problem }) => problem)).toEqual([
      'This buyer has no price list of their own. Edit the base price instead.',
      expect.stringContaining('“cheap” is not a price.'),
      'Names are not edited here.',
      'Costs are edited on the product’s sheet, or imported.',
    ])
  })

  test('of too many figures is refused as a whole', () => {
    const cells = Array.from({ length: 2_001 }, () => ({ row: ownBase, column: BASE, text: '77' }))
    expect(planPaste(view, cells, rowAt)).toMatchObject({ changes: [], problems: [{ label: 'Pasted' }] })
  })
})

describe('figures of a range', () => {
  const price = (amount: string, cost: string | null, currency = 'EUR') => ({
    amount: decimal(amount),
    cost: cost === null ? null : decimal(cost),
    currency,
  })

  test('count, ends, mean and mean margin, of the prices whose cost is known', () => {
    // Margins 50 % and 20 %: (10 − 5) ÷ 10 and (20 − 16) ÷ 20.
    expect(rangeFigures([price('20', '16'), price('10', '5'), price('12', null)], 2)).toEqual({
      count: 3,
      least: '10',
      most: '20',
      mean: '14',
      meanMargin: '35',
    })
  })

  test('prices of several currencies have no mean', () => {
    expect(rangeFigures([price('20', null), price('10', null, 'GBP')], 2)?.mean).toBeNull()
  })

  test('a range without prices has no figures', () => expect(rangeFigures([], 2)).toBeNull())
})

test('the board looked at from elsewhere keeps its rows, so that scrubbing changes figures alone', async () => {
  const later = await loadBoard(
    lookAs('guest', { ...DEFAULT_VANTAGE, buying: 40 }),
    parseBoardFilter(new URLSearchParams()),
  )
  expect(later.counts).toEqual(view.counts)
  expect(later.firstBlock.map(({ id }) => id)).toEqual(view.firstBlock.map(({ id }) => id))
})

describe('a range changed by one rule', () => {
  test.each([
    ['+4%', { kind: 'percent', percent: '4' }, null],
    ['+4,5% .90', { kind: 'percent', percent: '4.5' }, { kind: 'endings', endings: ['0.9'] }],
    ['−2', { kind: 'change', amount: '-2' }, null],
    ['19,90', { kind: 'amount', amount: '19.9' }, null],
    ['m35 0.05 up', { kind: 'margin', percent: '35' }, { kind: 'step', step: '0.05', mode: 'up' }],
  ])('“%s” is understood', (text, expression, rounding) => {
    const read = readRangeRule(text)
    if (!read.ok) throw new Error(read.problem)
    expect(read.value.expression).toEqual(expression)
    if (rounding === null) expect(read.value.rounding).toBeNull()
    else expect(read.value.rounding).toMatchObject(rounding)
  })

  test.each(['more', '4%', '+4% nearly'])('“%s” is not', (text) => {
    expect(readRangeRule(text).ok).toBe(false)
  })

  const rule = (text: string) => {
    const read = readRangeRule(text)
    if (!read.ok) throw new Error(read.problem)
    return read.value
  }
  const whole = () => ({ top: 0, bottom: Math.min(rows.length, 40) - 1, left: BASE, right: CLUB })

  test('every price that can be changed moves, from the figure that is seen; nothing else', () => {
    const plan = planRange(view, whole(), rule('+10%'), rowAt)
    expect(plan.changes.length + plan.unchanged + plan.problems.length).toBe(
      countEditable(view, whole(), rowAt),
    )
    for (const { before, after, edit } of plan.changes) {
      expect(edit.seen).toBe(before)
      // To the cent: half a cent off at most.
      expect(Math.abs(Number(after) - Number(before) * 1.1)).toBeLessThan(0.00501)
    }
  })

  test('a rule that gives what is there changes nothing', () => {
    expect(planRange(view, whole(), rule('+0%'), rowAt).changes).toEqual([])
  })

  test('filling down gives every price below the first one of its column', () => {
    const below = rows.findIndex((_, row) => row > ownBase && rowAt(row).place?.kind === 'variant')
    const range = { top: ownBase, bottom: below, left: BASE, right: BASE }
    const plan = planFillDown(view, range, rowAt)
    for (const { after } of plan.changes) expect(after).toBe(cellAt(ownBase, BASE)?.current)
  })
})

/** The board under a filter, as one reads its rows from the top. */
async function boardOf(search: string) {
  const shown = await loadBoard(lookAs('guest'), parseBoardFilter(new URLSearchParams(search)))
  const places = layOutRows(shown.counts, new Set())
  const at = (row: number) => {
    const place = places[row]
    const product = place && shown.firstBlock[place.product]
    const variant = place?.kind === 'variant' ? product?.variants[place.variant] : undefined
    return { place, product, variant }
  }
  return { shown, places, at }
}

test('one variant shown of many gets a price of its own: those out of sight stay as they are', async () => {
  const { shown, places, at } = await boardOf('find=HV-COM-PF')
  expect(places).toHaveLength(1)
  expect(at(0).variant?.ownBase).toBe(false)
  expect(editableCell(shown, at(0), BASE)?.edit('9')).toMatchObject({ record: 'variant' })
  // A product that has only one takes its price over.
  const alone = await boardOf('find=HV-OBS')
  expect(editableCell(alone.shown, alone.at(0), BASE)?.edit('9')).toMatchObject({ record: 'product' })
})

test('what is shown is changed once on a product that is shown whole, else on each of its variants', async () => {
  const rule = readRangeRule('+10%')
  if (!rule.ok) throw new Error(rule.problem)
  const changed = async (search: string) => {
    const { shown, places, at } = await boardOf(search)
    const range = { top: 0, bottom: places.length - 1, left: BASE, right: BASE }
    return planRange(shown, range, rule.value, (row) => asShownWhole(at(row))).changes.map(
      ({ label, before, after }) => `${label}: ${before} → ${after}`,
    )
  }
  // Pine, flat-packed takes the product's price over; the others have their own.
  expect(await changed('find=HV-COM')).toEqual([
    'base price of HV-COM: 289 → 317.9',
    'base price of HV-COM-PA: 336 → 369.6',
    'base price of HV-COM-CF: 415 → 456.5',
  ])
  expect(await changed('of=HV-COM-PF, HV-COM-PA')).toEqual([
    'base price of HV-COM-PF: 289 → 317.9',
    'base price of HV-COM-PA: 336 → 369.6',
  ])
})
