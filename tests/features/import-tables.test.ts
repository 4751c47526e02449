import { guessMatching } from '@/server/imports/import-field'
import { guessDecimalMark, plainAmount } from '@/core/decimal/written-amount'
import { productFields } from '@/server/imports/product-fields'
import { readTable } from '@/server/imports/read-table'
import { writeTable } from '@/server/imports/write-table'
import { store } from '@tests/fixtures/demo-outlook'
import fc from 'fast-check'
import writeExcel from 'write-excel-file/node'

const utf8 = (text: string) => new TextEncoder().encode(text)

async function tableOf(bytes: Uint8Array) {
  const outcome = await readTable(bytes)
  if (!outcome.ok) throw new Error(outcome.problem.code)
  return outcome.table
}

describe('a file of rows', () => {
  test.each([
    ['commas', 'SKU,Price\nA,1.50\n'],
    ['semicolons, as spreadsheets of many countries write', 'SKU;Price\nA;1.50\n'],
    ['tabs', 'SKU\tPrice\nA\t1.50\n'],
    ['a byte order mark and CRLF', '\uFEFFSKU,Price\r\nA,1.50\r\n'],
    ['rows of nothing, which are passed over', 'SKU,Price\n\n,\nA,1.50\n\n'],
  ])('is read with %s', async (_reason, text) => {
    const { header, rows } = await tableOf(utf8(text))
    expect(header).toEqual(['SKU', 'Price'])
    expect(rows.map(({ cells }) => cells)).toEqual([['A', '1.50']])
  })

  test('rows keep the numbers a spreadsheet shows', async () => {
    const { rows } = await tableOf(utf8('SKU\n\nA\nB\n'))
    expect(rows.map(({ number }) => number)).toEqual([3, 4])
  })

  test.each([
    ['UTF-16 with its mark', Buffer.from('\uFEFFName\nBiene é\n', 'utf16le')],
    ['Windows-1252, which is no UTF-8', Buffer.from('Name\nBiene é\n', 'latin1')],
  ])('is read in %s', async (_reason, bytes) => {
    expect((await tableOf(new Uint8Array(bytes))).rows[0]?.cells).toEqual(['Biene é'])
  })

  test('a quoted cell keeps its separators, quotation marks and lines (RFC 4180 §2)', async () => {
    const { rows } = await tableOf(utf8('Name,Text\n"Frame, deep","say ""bee""\ntwice"\n'))
    expect(rows[0]?.cells).toEqual(['Frame, deep', 'say "bee"\ntwice'])
  })

  test.each([
    ['nothing', '', 'empty'],
    ['headings alone', 'SKU,Price\n', 'no-rows'],
    ['a picture or program', 'SKU\u0000\u0001,Price\nA,1', 'not-a-spreadsheet'],
    ['an open quotation mark', 'SKU,Name\nA,"open\nB,x\n', 'broken'],
    ['a PDF', '%PDF-1.7\n', 'not-a-spreadsheet'],
  ])('%s is refused', async (_reason, text, code) => {
    const outcome = await readTable(utf8(text))
    expect(outcome.ok ? null : outcome.problem.code).toBe(code)
  })

  test('a workbook gives the decimals its writer typed, not its binary fractions', async () => {
    const numbers = [19.9, 0.1 + 0.2, 1234567.89, 100, 0.000001]
    const workbook = await writeExcel([
      [{ value: 'SKU' }, { value: 'Price' }],
      ...numbers.map((value) => [{ value: 'A' }, { value, type: Number }]),
    ]).toBuffer()
    const { rows } = await tableOf(new Uint8Array(workbook))
    expect(rows.map(({ cells }) => cells[1])).toEqual(['19.9', '0.3', '1234567.89', '100', '0.000001'])
  })

  test('whatever is written is read again', async () => {
    const cell = fc.string({ unit: 'grapheme' }).map((text) => text.replace(/\u0000/g, '').trim())
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 8 }), async (cells) => {
        const { rows } = await tableOf(
          utf8(
            writeTable(
              ['Key', 'One', 'Two'],
              cells.map((each, at) => [`row ${at}`, ...each]),
            ),
          ),
        )
        expect(rows).toHaveLength(cells.length)
        rows.forEach(({ cells: read }, at) =>
          cells[at]?.forEach((text, column) =>
            // A text that a spreadsheet would run as a formula has an apostrophe before it.
            expect([text, `'${text}`]).toContain((read[column + 1] ?? '').replace(/\r\n/g, '\n') || text),
          ),
        )
      }),
    )
  })

  test('a cell that would run as a formula is made harmless, an amount is left', () => {
    expect(writeTable(['Name'], [['=1+1'], ['-12%'], ['@list'], ['-4.50']])).toBe(
      "\uFEFFName\r\n'=1+1\r\n-12%\r\n'@list\r\n-4.50\r\n",
    )
  })
})

describe('amounts as people write them', () => {
  test.each([
    ['point', '1,234.50', '1234.50'],
    ['point', '1 234.50', '1234.50'],
    ['point', '€ 19.90', '19.90'],
    ['point', '19.90 EUR', '19.90'],
    ['point', '12,50', '12,50'],
    ['comma', '1.234,50', '1234.50'],
    ['comma', '12,50', '12.50'],
    ['comma', '1.234', '1234'],
    ['comma', '12.50', '12.50'],
    ['point', '-3.2', '-3.2'],
    ['point', 'on request', 'on request'],
  ] as const)('with a decimal %s, “%s” is %s', (mark, text, plain) => {
    expect(plainAmount(text, mark)).toBe(plain)
  })

  test.each([
    [['12,50', '7,00', 'Frame'], 'comma'],
    [['12.50', '1,234.00'], 'point'],
    [['1.234,50'], 'comma'],
    [['Frame', '3'], 'point'],
  ] as const)('the sign is guessed from %j', (samples, mark) => {
    expect(guessDecimalMark(samples)).toBe(mark)
  })
})

describe('matching columns', () => {
  const guess = (header: readonly string[]) => guessMatching(header, productFields(store, header))

  test('knows headings by name, other words, case and signs', () => {
    expect(
      guess(['sku', 'Product name', 'RRP', 'Cost price', 'Weight (kg)', 'Category path', 'Hamster']),
    ).toEqual(['sku', 'name', 'recommendedPrice', 'cost', 'weight', 'categories', null])
  })

  test('gives a field to one column only', () => {
    expect(guess(['Price', 'Net price'])).toEqual(['basePrice', null])
  })

  test('offers a heading nobody knows as an option and as an attribute', () => {
    const keys = productFields(store, ['SKU', 'Colour of wax']).map(({ key }) => key)
    expect(keys).toEqual(expect.arrayContaining(['option:Colour of wax', 'attribute:Colour of wax']))
  })
})
