'use client'

import { readLocal } from '@/core/predicates/schedule-text'
import { BridgeChart } from '@/ui/chart/bridge-chart'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import { capital } from '@/ui/format/capital'
import { formatLocalDay } from '@/ui/format/instant'
import { useFrame } from '@/ui/frame/frame-context'
import { TypedWord } from '@/ui/frame/typed-word'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import { type ReactNode, useState } from 'react'
import { reportFields } from './report-url'
import { type ReportShown, type ReportView, SALES_BY } from './report-view'

const NAMES = {
  realisation: 'From base price to paid',
  sales: 'Sales and margin',
  quotes: 'Quotes won and lost',
} as const
const BY_WORDS = { buyer: 'buyer', group: 'group', list: 'price list', promotion: 'promotion' } as const

/** What was sold: drawn, in figures, each figure with its orders behind it. */
export function ReportPage({ view }: { readonly view: ReportView }) {
  const { shown, currencies, orders, leftOut } = view
  const { href } = useFrame()
  const router = useRouter()
  const [problem, setProblem] = useState('')
  const show = (change: Partial<ReportShown>) =>
    router.push(href(`/reports?${reportFields({ ...shown, ...change })}`))
  const setDay = (field: 'since' | 'until', text: string) => {
    const local = readLocal(text)
    setProblem(local ? '' : `“${text}” is no day. Write it like 1 October 2026.`)
    if (local) show({ [field]: local.slice(0, 10) })
  }
  const isQuotes = shown.report === 'quotes'
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Reports">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="text-xl leading-7 font-semibold">Reports</h1>
        {(Object.keys(NAMES) as (keyof typeof NAMES)[]).map((report) => (
          <button
            key={report}
            type="button"
            aria-current={shown.report === report ? 'page' : undefined}
            className={shown.report === report ? 'border-b-2 border-primary font-semibold' : 'link-name'}
            onClick={() => show({ report })}
          >
            {NAMES[report]}
          </button>
        ))}
        <a className="ml-auto link-name" href={`/api/reports?${reportFields(shown)}`}>
          Export (CSV)
        </a>
      </div>
      <p className="pt-2 text-base leading-8 text-soft">
        {isQuotes ? 'Asked' : 'Ordered'} from{' '}
        <TypedWord
          key={`since ${shown.since}`}
          label="From"
          value={formatLocalDay(shown.since)}
          placeholder="a day"
          width={8}
          onDone={(text) => setDay('since', text)}
        />{' '}
        until{' '}
        <TypedWord
          key={`until ${shown.until}`}
          label="Until"
          value={formatLocalDay(shown.until)}
          placeholder="a day"
          width={8}
          onDone={(text) => setDay('until', text)}
        />
        {currencies.length > 1 && (
          <>
            , in{' '}
            <select
              aria-label="Currency"
              className="bg-transparent word text-base-content"
              value={shown.currency}
              onChange={(event) => show({ currency: event.target.value })}
            >
              {currencies.map((currency) => (
                <option key={currency}>{currency}</option>
              ))}
            </select>
          </>
        )}
        {shown.report === 'sales' && (
          <>
            , by{' '}
            <select
              aria-label="By"
              className="[field-sizing:content] bg-transparent word text-base-content"
              value={shown.by}
              onChange={(event) => show({ by: event.target.value as ReportShown['by'] })}
            >
              {SALES_BY.map((by) => (
                <option key={by} value={by}>
                  {BY_WORDS[by]}
                </option>
              ))}
            </select>
          </>
        )}
        : {orders} {isQuotes ? (orders === 1 ? 'quote' : 'quotes') : orders === 1 ? 'order' : 'orders'}
      </p>
      {problem && (
        <p role="alert" className="text-error">
          {problem}
        </p>
      )}
      {orders === 0 ? (
        <p className="pt-4">
          {isQuotes ? 'No quote was asked for in these days.' : 'Nothing was ordered in these days.'} Choose
          others above.
        </p>
      ) : (
        <>
          {shown.report === 'realisation' && <Realisation view={view} />}
          {shown.report === 'sales' && <Sales view={view} />}
          {shown.report === 'quotes' && <Quotes view={view} />}
        </>
      )}
      {leftOut.map((each) => (
        <p key={each} className="pt-2 text-soft">
          {each}
        </p>
      ))}
    </section>
  )
}

function Realisation({ view: { realisation, digits, shown } }: { readonly view: ReportView }) {
  // What moved nothing takes no room in the drawing.
  const drawn = realisation.filter(({ kind, amount }) => kind === 'sum' || amount !== '0')
  return (
    <div className="max-w-5xl">
      <BridgeChart
        title="From base price to what was paid"
        steps={drawn.map(({ name, kind, amount }) => ({
          ...{ name, kind, value: Number(amount) },
          words: formatAmount(amount, digits),
        }))}
      />
      <Table titles={['Step', `${shown.currency}, without tax`, 'Of base']}>
        {realisation.map(({ key, name, kind, amount, percent, href }) => (
          <tr
            key={key}
            className={`border-b border-dotted border-base-300 ${kind === 'sum' ? 'font-semibold' : ''}`}
          >
            <th
              scope="row"
              className={`py-1.5 text-left ${kind === 'sum' ? 'font-semibold' : 'font-normal'}`}
            >
              {name}
            </th>
            <Figure href={href}>{formatAmount(amount, digits)}</Figure>
            <td className="py-1.5 text-right text-soft tabular-nums">
              {percent === null ? '–' : formatPercent(percent)}
            </td>
          </tr>
        ))}
      </Table>
    </div>
  )
}

function Sales({ view: { sales, digits, shown } }: { readonly view: ReportView }) {
  const counts =
    shown.by === 'promotion'
      ? ' Goods with several promotions count under each.'
      : shown.by === 'group'
        ? ' Buyers in several groups count under each.'
        : ''
  return (
    <div className="max-w-5xl">
      <p className="pb-1 text-soft">Goods that were kept, without tax, at what was paid for them.{counts}</p>
      <Table
        titles={[capital(BY_WORDS[shown.by]), 'Orders', `Sales, ${shown.currency}`, 'Cost', 'Margin', '']}
      >
        {sales.map(({ key, name, href, orders, net, cost, margin, share }) => (
          <tr key={key} className="border-b border-dotted border-base-300">
            <th scope="row" className="py-1.5 text-left font-normal">
              {name}
            </th>
            <td className="py-1.5 text-right tabular-nums">{orders}</td>
            <Figure href={href}>{formatAmount(net, digits)}</Figure>
            <td className="py-1.5 text-right text-soft tabular-nums">
              {cost === null ? 'not known' : formatAmount(cost, digits)}
            </td>
            <td
              className={`py-1.5 text-right tabular-nums ${margin?.startsWith('-') ? 'font-semibold text-error' : ''}`}
            >
              {margin === null ? '–' : formatPercent(margin)}
            </td>
            <td className="w-56 py-1.5 pl-4">
              <span className="block h-2 bg-primary" style={{ width: `${share * 100}%` }} />
            </td>
          </tr>
        ))}
      </Table>
    </div>
  )
}

function Quotes({ view: { quotes, reasons, buyers, digits, shown } }: { readonly view: ReportView }) {
  const most = Math.max(1, ...quotes.map(({ count }) => count))
  return (
    <div className="grid max-w-5xl items-start gap-x-12 gap-y-6 lg:grid-cols-2">
      <Table titles={['How they stand', 'Quotes', `Offered, ${shown.currency}`, '']}>
        {quotes.map(({ key, name, href, count, value }) => (
          <tr key={key} className="border-b border-dotted border-base-300">
            <th scope="row" className="py-1.5 text-left font-normal">
              {name}
            </th>
            <Figure href={href}>{count}</Figure>
            <td className="py-1.5 text-right tabular-nums">{formatAmount(value, digits)}</td>
            <td className="w-32 py-1.5 pl-4">
              <span
                className={`block h-2 ${key === 'accepted' ? 'bg-primary' : ['declined', 'refused', 'expired'].includes(key) ? 'bg-error' : 'bg-bar'}`}
                style={{ width: `${(count / most) * 100}%` }}
              />
            </td>
          </tr>
        ))}
      </Table>
      <Table titles={['Why they were declined', 'Quotes', `Offered, ${shown.currency}`]}>
        {reasons.length === 0 && (
          <tr>
            <td colSpan={3} className="py-1.5 text-soft">
              None was declined.
            </td>
          </tr>
        )}
        {reasons.map(({ key, name, href, count, value }) => (
          <tr key={key} className="border-b border-dotted border-base-300">
            <th scope="row" className="py-1.5 text-left font-normal">
              {name}
            </th>
            <Figure href={href}>{count}</Figure>
            <td className="py-1.5 text-right tabular-nums">{formatAmount(value, digits)}</td>
          </tr>
        ))}
      </Table>
      <div className="lg:col-span-2">
        <Table titles={['Buyer', 'Asked', 'Won', 'Lost', 'Won of what is decided']}>
          {buyers.map(({ name, href, asked, won, lost, rate }) => (
            <tr key={name} className="border-b border-dotted border-base-300">
              <th scope="row" className="py-1.5 text-left font-normal">
                {name}
              </th>
              <Figure href={href}>{asked}</Figure>
              <td className="py-1.5 text-right tabular-nums">{won}</td>
              <td className="py-1.5 text-right tabular-nums">{lost}</td>
              <td className="py-1.5 text-right tabular-nums">{rate === null ? '–' : formatPercent(rate)}</td>
            </tr>
          ))}
        </Table>
      </div>
    </div>
  )
}

function Table({ titles, children }: { readonly titles: readonly string[]; readonly children: ReactNode }) {
  return (
    <table className="mt-2 w-full">
      <thead>
        <tr className="border-b border-base-content text-soft">
          {titles.map((title, at) => (
            <th key={title} className={`py-1 font-normal ${at === 0 ? 'text-left' : 'text-right'}`}>
              {title === '' ? <span className="sr-only">Drawn</span> : title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  )
}

/** A figure that opens what it is made of. */
function Figure({ href, children }: { readonly href: string; readonly children: ReactNode }) {
  return (
    <td className="py-1.5 text-right tabular-nums">
      <VantageLink href={href} className="link-name">
        {children}
      </VantageLink>
    </td>
  )
}
