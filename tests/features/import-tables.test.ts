import { guessMatching } from '@/server/imports/import-field'
import { guessDecimalMark, plainAmount } from '@/core/decimal/written-amount'
import { productFields } from '@/server/imports/products/product-fields'
import { readTable } from '@/server/imports/read-table'
import { writeTable } from '@/server/imports/write-table'
import { store } from '@tests/fixtures/demo-request'
import fc from 'fast-check'
import { zipSync } from 'fflate'
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
            // The apostrophe before what a spreadsheet would run as a formula is taken off again.
            expect((read[column + 1] ?? '').replace(/\r\n?/g, '\n')).toBe(text.replace(/\r\n?/g, '\n')),
          ),
        )
      }),
      // Each is read in a thread of its own.
      { numRuns: 15, endOnFailure: true },
    )
  }, 30_000)

  test.each([
    ['=1+1', "'=1+1"],
    ["'=1+1", "''=1+1"],
    ['-bold', "'-bold"],
    ['-5', '-5'],
    ["'tis", "'tis"],
  ])('%s is written so that no spreadsheet runs it, and read as it was', async (text, written) => {
    const file = writeTable(['=Key', 'Value'], [['a', text]])
    expect(file).toContain(written)
    expect(file).toContain("'=Key")
    const { header, rows } = await tableOf(utf8(file))
    expect(header[0]).toBe('=Key')
    expect(rows[0]?.cells[1]).toBe(text)
  })

  test('a small workbook that names the last cell of all is refused at once', async () => {
    for (const cell of ['XFD2', 'A1048576', 'XFD1048576']) {
      const sheet =
        '<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>' +
        `<row r="${/\d+/.exec(cell)?.[0]}"><c r="${cell}" t="inlineStr"><is><t>x</t></is></c></row></sheetData></worksheet>`
      const bytes = zipSync({ 'xl/worksheets/sheet1.xml': new TextEncoder().encode(sheet) })
      expect(bytes.length).toBeLessThan(1500)
      const began = performance.now()
      const read = await readTable(bytes)
      expect(performance.now() - began).toBeLessThan(5_000)
      expect(read.ok ? null : read.problem.code).toMatch(/^too-many-(rows|columns)$/)
    }
  })

  test('headings by the ten thousand are refused before they are matched', async () => {
    const headings = Array.from({ length: 10_000 }, (_, at) => `Heading ${at}`).join(',')
    expect(await readTable(utf8(`${headings}\n${headings}\n`))).toMatchObject({
      ok: false,
      problem: { code: 'too-many-columns', columns: 10_000 },
    })
  })

  test('a workbook that unpacks to more than memory holds is refused by what it says of itself', async () => {
    const bytes = zipSync({ 'xl/worksheets/sheet1.xml': new Uint8Array(100) })
    const view = new DataView(bytes.buffer)
    for (let at = 0; at < bytes.length - 46; at += 1)
      if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, 0xf000_0000, true)
    expect(await readTable(bytes)).toMatchObject({ ok: false, problem: { code: 'too-large' } })
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

test('wrong rows go back parted as they came', async () => {
  const read = await readTable(new TextEncoder().encode('SKU;Price\nA;1,50\n'))
  if (!read.ok) throw new Error(read.problem.code)
  const { header, rows, delimiter } = read.table
  const text = writeTable(
    header,
    rows.map(({ cells }) => cells),
    delimiter,
  )
  expect(text).toBe('\uFEFFSKU;Price\r\nA;1,50\r\n')
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
