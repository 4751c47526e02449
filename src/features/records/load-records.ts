import 'server-only'

import { labelOf } from '@/core/store/references'
import type { RequestContext } from '@/server/engine/request-context'
import { isPutAway, nameOf, recordsOf } from '@/sheet/record/find-record'
import { flagOf } from '@/sheet/record/record-flags'
import { COLUMNS, type TabledKind } from './record-columns'
import type { RecordTableView } from './record-table-view'

/** Every record of a kind by name, archived ones last. */
export async function loadRecords(
  requestContext: RequestContext,
  kind: TabledKind,
): Promise<RecordTableView> {
  const { store } = requestContext.prepared
  const columns = await Promise.all(
    COLUMNS[kind].map(async (column) => {
      if ('cell' in column) return column
      const counts = await column.count(requestContext)
      return { title: column.title, cell: ({ id }: { readonly id: string }) => String(counts.get(id) ?? 0) }
    }),
  )
  return {
    columns: columns.map(({ title }) => title),
    rows: recordsOf(store, kind)
      .map((record) => ({
        label: labelOf(kind, record as never),
        name: nameOf(kind, record),
        cells: columns.map(({ cell }) => cell(record as never, requestContext)),
        flag: flagOf(requestContext, kind, record),
        archived: isPutAway(kind, record),
      }))
      .sort(
        (left, right) => Number(left.archived) - Number(right.archived) || (left.name < right.name ? -1 : 1),
      ),
    live: requestContext.live,
  }
}
