import { formatPercent } from '@/ui/format/amount'
import { ChangeStrip, StripAxis, stripScale } from '@/ui/chart/change-strip'
import { VantageLink } from '@/ui/frame/vantage-link'
import { IconChevronDown, IconChevronRight } from '@tabler/icons-react'
import { Fragment, type ReactNode } from 'react'
import type { CellRow, ClassRow, ImpactView } from '../review/review-view'
import { reviewHref, type ReviewShown } from '../review/review-url'

/** Which buyers pay what else, class by class; one of them opened into its prices. */
export function WhoPays({
  view,
  shown,
  traces,
}: {
  readonly view: ImpactView
  readonly shown: ReviewShown
  /** How the price that is opened comes about, before and after. */
  readonly traces: ReactNode
}) {
  const scale = stripScale(view.classes.flatMap(({ percents }) => percents))
  if (view.classes.length === 0) return <p className="py-4 text-soft">No price moves for anybody.</p>
  return (
    <table className="w-full table-fixed" aria-label="Who pays what">
      <thead>
        <tr className="border-b border-base-content align-bottom">
          <th className="py-1 pr-3 text-left font-semibold">Who</th>
          <th className="w-[60px] py-1 pr-4 text-right font-semibold">
            Prices
            <br />
            move
          </th>
          <th className="w-[250px] py-1 pr-4 text-left font-semibold">
            By how much, each tick one price
            {view.moved > 0 && <StripAxis scale={scale} />}
          </th>
          <th className="w-[100px] py-1 pr-4 text-right font-semibold">
            Margin, %<span className="block text-xs font-normal text-soft">before → after</span>
          </th>
          <th
            className="w-[92px] py-1 pr-4 text-right font-semibold"
            title="By how much sales may change for the same profit"
          >
            Units for
            <br />
            same profit
          </th>
          <th className="w-[46px] py-1 text-right font-semibold">
            Below
            <br />
            cost
          </th>
        </tr>
      </thead>
      <tbody>
        {view.classes.map((row) => {
          const isOpen = view.opened?.key === row.key
          return (
            <Fragment key={row.key}>
              <tr className="border-b border-base-300">
                <td className="py-1 pr-3">
                  <VantageLink
                    href={reviewHref(view.address, {
                      ...shown,
                      who: isOpen ? '' : row.key,
                      sku: null,
                      quantity: 1,
                      isWhole: false,
                    })}
                    aria-expanded={isOpen}
                    className="flex items-baseline gap-1"
                  >
                    {isOpen ? (
                      <IconChevronDown size={12} aria-hidden />
                    ) : (
                      <IconChevronRight size={12} aria-hidden />
                    )}
                    <span className="min-w-0 truncate" title={`${row.name} ${row.about}`}>
                      <b>{row.name}</b> <span className="text-xs text-soft">{row.about}</span>
                    </span>
                  </VantageLink>
                </td>
                <td className={`py-1 pr-4 text-right ${row.moved > 0 ? 'font-semibold' : 'text-soft'}`}>
                  {row.moved > 0 ? row.moved : '–'}
                </td>
                <td className="pr-4">
                  {row.moved > 0 ? (
                    <ChangeStrip
                      percents={row.percents}
                      median={row.median}
                      scale={scale}
                      label={`${row.moved} prices, in the middle ${row.median ?? 0} %`}
                    />
                  ) : (
                    <span className="text-soft">only costs move</span>
                  )}
                </td>
                <Figures row={row} />
              </tr>
              {isOpen && view.opened && (
                <tr className="border-b border-base-300 bg-lifted">
                  <td colSpan={6} className="px-4 pt-1 pb-3">
                    <OpenedClass view={view} shown={shown} rows={view.opened.rows} traces={traces} />
                  </td>
                </tr>
              )}
            </Fragment>
          )
        })}
        <tr>
          <td className="py-1.5 font-semibold">All {view.classes.length}</td>
          <td className="py-1.5 pr-4 text-right font-semibold">{view.all.moved}</td>
          <td />
          <Figures row={view.all} />
        </tr>
      </tbody>
    </table>
  )
}

function Figures({
  row: { marginBefore, marginAfter, breakEven, belowCost },
}: {
  readonly row: Pick<ClassRow, 'marginBefore' | 'marginAfter' | 'breakEven' | 'belowCost'>
}) {
  return (
    <>
      <td className="py-1 pr-4 text-right whitespace-nowrap">
        {marginBefore === null || marginAfter === null ? (
          <span className="text-soft">no cost</span>
        ) : (
          <>
            <span className="text-soft">{bare(marginBefore)} →</span> <b>{bare(marginAfter)}</b>
          </>
        )}
      </td>
      <td className="py-1 pr-4 text-right whitespace-nowrap">
        {breakEven === null ? '–' : signed(breakEven)}
      </td>
      <td className={`py-1 text-right ${belowCost > 0 ? 'font-semibold text-error' : 'text-soft'}`}>
        {belowCost > 0 ? belowCost : '–'}
      </td>
    </>
  )
}

function bare(percent: string): string {
  return formatPercent(percent as never).replace(' %', '')
}

function signed(percent: string): string {
  const text = formatPercent(percent as never)
  return text.startsWith('−') || Number(percent) === 0 ? text : `+${text}`
}

function OpenedClass({
  view,
  shown,
  rows,
  traces,
}: {
  readonly view: ImpactView
  readonly shown: ReviewShown
  readonly rows: readonly CellRow[]
  readonly traces: ReactNode
}) {
  const { address, opened, names } = view
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-6">
      <table className="self-start" aria-label="Prices, worst first">
        <thead>
          <tr className="text-xs text-soft">
            <th className="py-0.5 pr-2 text-left font-normal">Worst first</th>
            <th className="py-0.5 pr-3 text-right font-normal">{names[0]}</th>
            <th className="py-0.5 pr-3 text-right font-normal">{names[1]}</th>
            <th className="py-0.5 text-right font-normal">Margin, %</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const isChosen = row.sku === shown.sku && row.quantity === shown.quantity
            return (
              <tr
                key={`${row.sku} ${row.quantity}`}
                className={`border-b border-dotted border-base-300 ${isChosen ? 'bg-chosen' : ''}`}
              >
                <td className="py-1 pr-2">
                  <VantageLink
                    href={reviewHref(address, {
                      ...shown,
                      who: opened?.key ?? null,
                      sku: row.sku,
                      quantity: row.quantity,
                    })}
                    className="link-name"
                    aria-current={isChosen}
                  >
                    {row.title}
                  </VantageLink>{' '}
                  <span className="text-xs text-soft">{row.from}</span>
                  {row.isAbovePublic && <span className="text-xs text-error"> above what guests pay</span>}
                </td>
                <td className="py-1 pr-3 text-right text-soft">{row.before}</td>
                <td className="bg-warning py-1 pr-3 text-right font-semibold text-warning-content">
                  {row.after}
                </td>
                <td
                  className={`py-1 text-right whitespace-nowrap ${row.isBelowCost ? 'font-semibold text-error' : 'text-soft'}`}
                >
                  {row.marginBefore === null || row.marginAfter === null
                    ? '–'
                    : `${bare(row.marginBefore)} → ${bare(row.marginAfter)}`}
                </td>
              </tr>
            )
          })}
        </tbody>
        {opened && opened.more > 0 && (
          <tfoot>
            <tr>
              <td className="pt-1">
                <VantageLink
                  href={reviewHref(address, { ...shown, who: opened.key, isWhole: true })}
                  className="link-name"
                >
                  {opened.more} more
                </VantageLink>
              </td>
            </tr>
          </tfoot>
        )}
      </table>
      <div>
        {traces ?? (
          <p className="pt-5 text-soft">Choose a price to see how it comes about, before and after.</p>
        )}
      </div>
    </div>
  )
}
