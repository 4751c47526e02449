import { decimal } from '@/core/decimal/decimal'
import type { DecimalMark } from '@/core/decimal/written-amount'
import { formatAmount } from '@/ui/format/amount'
import type { MatchingProblem } from '@/server/imports/import-field'
import type { TableProblem } from '@/server/imports/read-table'
import type { RowEffect, RowProblem } from '@/server/imports/row-outcome'
import { issueWords } from '@/ui/format/refusal-sentence'

/** What a row changes: `Base price 12.00 → 13.00 · Cost 4.10`. */
export function effectsText(effects: readonly RowEffect[]): string {
  return effects
    .map(({ field, before, after, digits }) => {
      const shown = (text: string) =>
        digits === undefined || text === '' ? text : formatAmount(decimal(text), digits)
      return before === ''
        ? `${field} ${shown(after)}`
        : `${field} ${shown(before)} → ${shown(after) || 'none'}`
    })
    .join(' · ')
}

/** Why a row cannot be imported, and what would be right. */
export function problemSentence(problem: RowProblem, mark: DecimalMark): string {
  switch (problem.code) {
    case 'no-key':
      return problem.fields.length === 1
        ? `The row has no ${problem.fields[0]}.`
        : `The row names nothing: fill one of ${problem.fields.join(', ')}.`
    case 'repeated':
      return `${problem.field} ${problem.value} stands in row ${problem.row} already.`
    case 'needed-when-new':
      return `A new product needs ${problem.field === 'Categories' ? 'a category' : `a ${problem.field.toLowerCase()}`}.`
    case 'unknown':
      return `There is no ${problem.field} “${problem.value}”.${problem.nearest ? ` Did you mean ${problem.nearest}?` : ''}`
    case 'not-among':
      return `${problem.field} “${problem.value}” must be one of: ${problem.allowed.join(', ')}.`
    case 'other-product':
      return `SKU ${problem.sku} belongs to product ${problem.product}, not to ${problem.typed}.`
    case 'differs':
      return `${problem.field} “${problem.value}” contradicts row ${problem.row} of the same product, which says “${problem.other}”.`
    case 'option-absent':
      return `The option ${problem.axis} is empty, which tells this product’s variants apart.`
    case 'option-unknown':
      return `Product ${problem.product} has no option ${problem.axis}. Add it to the product first, or match the column as an attribute.`
    case 'options-alike':
      return `It has the same options as ${problem.sku}; match a column as the option that tells them apart.`
    case 'no-price':
      return 'The row has no price.'
    case 'not-a-rule':
      return `“${problem.value}” is not a price or rule. Write 19.90, -12%, +2 or m35, or none to take the line away.`
    case 'record':
      return problem.issue.code === 'not-a-decimal'
        ? notAnAmount(problem.issue.value, mark)
        : issueWords(problem.issue)
  }
}

/** In the way the rest of the file is written. */
function notAnAmount(value: string, mark: DecimalMark): string {
  return mark === 'comma'
    ? `“${value}” is not an amount. Write it like 19,90.`
    : `“${value}” is not an amount. Write it like 19.90.`
}

export function matchingSentence(problem: MatchingProblem): string {
  switch (problem.code) {
    case 'twice':
      return `Two columns are ${problem.field}. Leave one of them out.`
    case 'unknown':
      return `There is no field “${problem.field}”.`
    case 'absent':
      return problem.fields.length === 1
        ? `One column must be the ${problem.fields[0]}.`
        : `One column must be one of these: ${problem.fields.slice(0, 6).join(', ')}${problem.fields.length > 6 ? ' …' : ''}.`
  }
}

export function tableSentence(problem: TableProblem): string {
  switch (problem.code) {
    case 'empty':
      return 'The file is empty.'
    case 'no-rows':
      return 'The file has headings but no rows under them. The first row must be headings.'
    case 'not-a-spreadsheet':
      return problem.found === 'XLS'
        ? 'This is an old workbook (XLS). Save it as XLSX or CSV.'
        : `This is no CSV or XLSX file (it looks like ${problem.found}).`
    case 'too-many-rows':
      return `The file has ${problem.rows} rows; ${problem.most} at most. Split it.`
    case 'too-many-columns':
      return `The file has ${problem.columns} columns; ${problem.most} at most. Leave out those that are not needed.`
    case 'too-large':
      return 'The workbook is too large once it is unpacked. Save it as CSV, or split it.'
    case 'too-costly':
      return 'Reading this file took too much memory or time. Save it as CSV, or split it.'
    case 'broken':
      return `Row ${problem.row} cannot be read: ${problem.message}. Check its quotation marks.`
  }
}
