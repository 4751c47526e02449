'use client'

import { VantageLink } from '@/ui/frame/vantage-link'
import { PAGE_ROWS, type RepriceRowView, type RepriceView } from './reprice-view'
import type { RepriceShown, RepriceTab } from './reprice-url'

interface RepriceTableProps {
  readonly view: RepriceView
  readonly leftOut: ReadonlySet<string>
  /** What was typed over the rule, by row. */
  readonly typed: Readonly<Record<string, string>>
  readonly onShow: (change: Partial<RepriceShown>) => void
  readonly onToggle: (keys: readonly string[], isIn: boolean) => void
  readonly onType: (key: string, text: string) => void
}

const TABS: readonly (readonly [tab: RepriceTab, name: string])[] = [
  ['all', 'All'],
  ['outliers', 'Outliers'],
  ['same', 'Stay as they are'],
  ['problems', 'Cannot be'],
]

/** Each amount before and after, a page at a time. */
export function RepriceTable({ view, leftOut, typed, onShow, onToggle, onType }: RepriceTableProps) {
  const { shown, rows, counts, total, start, isAsked } = view
  if (!isAsked)
    return (
      <p className="min-h-0 flex-1 px-6 pt-6 text-soft">
        Type what becomes of each price: <b>+5%</b>, <b>−2</b>, <b>19.90</b>, <b>x1.2</b>, <b>m35</b> for a
        margin of 35 %; with steps by what a price is now, <b>+5%; 20: +4%; 60: +3%</b>. Every new price
        stands here before anything is changed.
      </p>
    )
  const keys = rows.map(({ key }) => key)
  const isAllIn = keys.every((key) => !leftOut.has(key))
  return (
    <div className="min-h-0 flex-1 overflow-auto px-6">
      <nav aria-label="Rows" className="flex flex-wrap items-baseline gap-x-5 pt-3">
        {TABS.map(([tab, name]) => (
          <button
            key={tab}
            type="button"
            aria-current={shown.tab === tab ? 'page' : undefined}
            className={`border-b-2 pb-1 ${shown.tab === tab ? 'border-primary font-semibold' : 'border-transparent text-soft hover:text-base-content'}`}
            onClick={() => onShow({ tab })}
          >
            {name} {counts[tab]}
          </button>
        ))}
        <label className="ml-auto text-soft">
          sorted by{' '}
          <select
            className="bg-transparent word text-base-content"
            value={shown.sort}
            onChange={(event) => onShow({ sort: event.target.value as RepriceShown['sort'] })}
          >
            <option value="change">change, largest first</option>
            <option value="price">price, highest first</option>
            <option value="name">name</option>
          </select>
        </label>
      </nav>
      <table className="w-full" aria-label="New prices">
        <thead className="sticky top-0 bg-base-100">
          <tr className="border-b border-base-content text-right align-bottom">
            <th className="w-8 py-1 text-left">
              <input
                type="checkbox"
                aria-label="All rows of this page"
                checked={isAllIn}
                onChange={() => onToggle(keys, !isAllIn)}
              />
            </th>
            <th className="py-1 text-left font-semibold">What</th>
            <th className="py-1 pl-3 text-left font-semibold">Code</th>
            <th className="py-1 pl-3 font-semibold">Now</th>
            <th className="py-1 pl-3 font-semibold">By the rule</th>
            <th className="w-24 py-1 pl-3 font-semibold">New</th>
            <th className="py-1 pl-3 font-semibold">Change</th>
            <th className="py-1 pl-3 font-semibold">Cost</th>
            <th className="py-1 pl-3 font-semibold">Margin, %</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <Row
              key={row.key}
              row={row}
              isIn={!leftOut.has(row.key)}
              typed={typed[row.key] ?? ''}
              onToggle={(isIn) => onToggle([row.key], isIn)}
              onType={(text) => onType(row.key, text)}
            />
          ))}
        </tbody>
      </table>
      {total > PAGE_ROWS && (
        <p className="flex gap-4 py-2 text-soft">
          rows {start + 1}–{Math.min(total, start + PAGE_ROWS)} of {total.toLocaleString('en-IE')}
          <button
            type="button"
            className="link-name disabled:opacity-40"
            disabled={start === 0}
            onClick={() => onShow({ page: start / PAGE_ROWS - 1 })}
          >
            Before
          </button>
          <button
            type="button"
            className="link-name disabled:opacity-40"
            disabled={start + PAGE_ROWS >= total}
            onClick={() => onShow({ page: start / PAGE_ROWS + 1 })}
          >
            Next
          </button>
        </p>
      )}
    </div>
  )
}

function Row({
  row,
  isIn,
  typed,
  onToggle,
  onType,
}: {
  readonly row: RepriceRowView
  readonly isIn: boolean
  readonly typed: string
  readonly onToggle: (isIn: boolean) => void
  readonly onType: (text: string) => void
}) {
  const { title, code, href, now, byRule, next, percent, isOutlier, cost, marginNow, marginNext, problem } =
    row
  return (
    <tr className={`border-b border-base-300 text-right ${isIn ? '' : 'text-soft'}`}>
      <td className="py-1 text-left">
        <input
          type="checkbox"
          aria-label={`Change ${title}`}
          checked={isIn}
          onChange={() => onToggle(!isIn)}
        />
      </td>
      <td className="max-w-72 truncate py-1 text-left">
        <VantageLink href={href} className="hover:underline">
          {title}
        </VantageLink>
      </td>
      <td className="py-1 pl-3 text-left text-xs text-soft">{code}</td>
      <td className="py-1 pl-3">{now}</td>
      <td className="py-1 pl-3 text-soft">{byRule}</td>
      <td className="bg-lifted py-0.5 pl-3">
        {problem === '' ? (
          <input
            aria-label={`New price of ${title}`}
            className={`w-20 bg-transparent px-1 text-right font-semibold ${isIn ? '' : 'line-through'} ${
              typed === '' ? '' : 'bg-chosen'
            }`}
            placeholder={next}
            value={typed === '' ? next : typed}
            disabled={!isIn}
            onChange={(event) => onType(event.target.value === next ? '' : event.target.value)}
          />
        ) : (
          <span className="text-xs text-error" title={problem}>
            cannot be
          </span>
        )}
      </td>
      <td className={`py-1 pl-3 whitespace-nowrap ${isOutlier ? 'font-semibold text-accent' : ''}`}>
        {percent === null ? (
          '–'
        ) : (
          <>
            {percent}
            {isOutlier && <span className="sr-only"> stands out</span>}
            {isOutlier && <span aria-hidden> ◆</span>}
          </>
        )}
      </td>
      <td className="py-1 pl-3 text-soft">{cost}</td>
      <td className={`py-1 pl-3 whitespace-nowrap ${row.isBelowCost ? 'font-semibold text-error' : ''}`}>
        <span className="text-soft">{marginNow} →</span> {marginNext}
      </td>
    </tr>
  )
}
