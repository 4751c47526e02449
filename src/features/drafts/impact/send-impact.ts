import 'server-only'

import { refuse } from '@/server/doors/with-store'
import { MOST_SHEET_ROWS, XLSX_TYPE } from '@/server/imports/write-sheet'
import { impactSheet, impactTable } from './export-impact'

/** An impact as the file that is asked for: `as` is `xlsx`, or else it is CSV. */
export async function sendImpact(
  moved: Parameters<typeof impactTable>[0],
  { as, name }: { readonly as: string | null; readonly name: string },
): Promise<Response> {
  const isSheet = as === 'xlsx'
  const body = isSheet ? await impactSheet(moved) : impactTable(moved)
  if (body === null)
    return refuse(
      422,
      'too-many-rows',
      `A spreadsheet is made of at most ${MOST_SHEET_ROWS} rows: export CSV instead.`,
    )
  return new Response(body, {
    headers: {
      'content-type': isSheet ? XLSX_TYPE : 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${name}.${isSheet ? 'xlsx' : 'csv'}`)}`,
    },
  })
}
