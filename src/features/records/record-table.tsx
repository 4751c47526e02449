'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { DataGrid, type GridColumn } from '@/ui/grid/data-grid'
import { useTableOrder } from '@/ui/grid/use-table-order'
import { useRouter } from 'next/navigation'
import { useCallback, useMemo } from 'react'
import type { RecordRow, RecordTableView } from './record-table-view'
import { SectionTabs } from './section-tabs'
import type { Section } from '@/sheet/record/sections'

const isPutAway = ({ archived }: RecordRow) => archived

/** Every record of a section, and the sections that stand beside it. */
export function RecordTable({
  section,
  view,
}: {
  readonly section: Section
  readonly view: RecordTableView
}) {
  const { href } = useFrame()
  const router = useRouter()
  const ordered = useMemo(
    () => [
      {
        key: 'name',
        title: section.title,
        textOf: ({ name, label }: RecordRow) => `${name} ${name === label ? '' : label}`.trim(),
      },
      ...view.columns.map((title, at) => ({
        key: title,
        title,
        textOf: ({ cells }: RecordRow) => cells[at] ?? '',
      })),
    ],
    [section.title, view.columns],
  )
  const {
    shown: rows,
    header,
    tools,
  } = useTableOrder(view.rows, ordered, { isPutAway, label: section.title })
  const rowKey = useCallback((row: number) => rows[row]?.label ?? String(row), [rows])
  const columns: readonly GridColumn[] = [
    { key: 'name', header: header('name'), width: 'minmax(180px, 1.4fr)' },
    ...view.columns.map((title, at) => ({
      key: title,
      header: header(title),
      width: `minmax(80px, ${weightOf(title, view.rows, at)}fr)`,
    })),
  ]
  const open = (row: number) => {
    const label = rows[row]?.label
    if (label !== undefined) router.push(href(`/${section.path}/${encodeURIComponent(label)}`))
    return label !== undefined
  }
  return (
    <section className="flex min-h-0 flex-1 flex-col" aria-label={section.title}>
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 px-6 pt-3 pb-2">
        <h1 className="text-xl leading-7 font-semibold">{section.title}</h1>
        <SectionTabs place={section.place} path={section.path} />
        {view.live && section.kind !== 'settings' && (
          <VantageLink href={`/${section.path}/new`} className="btn ml-auto btn-primary btn-sm">
            New {section.singular}
          </VantageLink>
        )}
        <p className="w-full text-soft">{section.about}</p>
        {view.rows.length > 1 && tools}
      </header>
      <div className="flex min-h-0 flex-1 flex-col px-4 pb-2">
        <DataGrid
          label={section.title}
          columns={columns}
          rowCount={rows.length}
          rowKey={rowKey}
          rowClass={(row) => (rows[row]?.archived ? 'text-soft' : '')}
          onToggle={open}
          renderCell={(row, column) => {
            const record = rows[row]
            if (!record) return null
            if (column > 0)
              return (
                <span className="truncate" title={record.cells[column - 1]}>
                  {record.cells[column - 1]}
                </span>
              )
            return (
              <span className="flex min-w-0 items-baseline gap-2">
                <VantageLink
                  href={`/${section.path}/${encodeURIComponent(record.label)}`}
                  tabIndex={-1}
                  className="truncate font-semibold hover:underline"
                >
                  {record.name}
                </VantageLink>
                {record.flag && (
                  <span className="shrink-0 bg-warning px-1 text-2xs font-semibold text-warning-content">
                    {record.flag}
                  </span>
                )}
                {record.archived && <span className="shrink-0 text-2xs">archived</span>}
              </span>
            )
          }}
          empty={
            <p className="px-2 py-6 text-soft">
              None yet. {section.about} Begin with “New {section.singular}”.
            </p>
          }
        />
      </div>
    </section>
  )
}

/** How much of the room a column gets: as much as it has to say, within reason. */
function weightOf(title: string, rows: readonly RecordRow[], at: number): number {
  const longest = rows
    .slice(0, 200)
    .reduce((most, { cells }) => Math.max(most, cells[at]?.length ?? 0), title.length)
  return Math.min(2.5, Math.max(0.6, longest / 16))
}
