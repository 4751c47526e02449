'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import type { ReactNode } from 'react'
import type { LimitsView } from './load-limits'
import { recordHref } from '@/ui/frame/record-href'

const COLUMNS = ['At least', 'At most', 'Multiples of', 'First quantity', 'Only'] as const

/** How many of what the buyer looked as may buy, and which level set each field. */
export function LimitsPage({ view, tabs }: { readonly view: LimitsView; readonly tabs: ReactNode }) {
  const { href } = useFrame()
  const router = useRouter()
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Limits in force">
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-2">
        <h1 className="text-xl leading-7 font-semibold">Limits</h1>
        {tabs}
        <p className="w-full text-soft">
          What holds for <b>{view.buyer}</b>: the nearest level that sets a field counts, each field by
          itself.
        </p>
      </header>
      {view.orders.length > 0 && (
        <p className="pb-3">
          Every order of theirs:{' '}
          {view.orders.map(({ name, href: to, text }, at) => (
            <span key={to}>
              {at > 0 && ' · '}
              <VantageLink href={to} className="link-name">
                {name}
              </VantageLink>{' '}
              {text}
            </span>
          ))}
        </p>
      )}
      <form
        className="flex items-baseline gap-2 pb-3"
        role="search"
        onSubmit={(event) => {
          event.preventDefault()
          const find = String(new FormData(event.currentTarget).get('find') ?? '').trim()
          router.push(href(`/limits-in-force${find ? `?${new URLSearchParams({ find })}` : ''}`))
        }}
      >
        <input
          name="find"
          type="search"
          defaultValue={view.find}
          placeholder="Name, code or SKU; empty is everything limited"
          aria-label="Find"
          className="w-80 border border-base-300 bg-lifted px-2 py-1"
        />
        <button type="submit" className="btn btn-sm">
          Show
        </button>
      </form>
      {view.items.length === 0 ? (
        <p className="text-soft">
          Nothing {view.find ? `is called “${view.find}”` : 'is limited for them'}. A rule limits a whole
          branch at once: begin under Limits.
        </p>
      ) : (
        <table className="w-full">
          <thead>
            <tr className="border-b border-base-300 text-left text-soft">
              <th className="py-1 pr-3 font-normal">Item</th>
              {COLUMNS.map((title) => (
                <th key={title} className="py-1 pr-3 text-right font-normal">
                  {title}
                </th>
              ))}
              <th className="py-1 font-normal">Combined or per period</th>
            </tr>
          </thead>
          <tbody>
            {view.items.map((item) => (
              <tr key={item.sku} className="border-b border-dotted border-base-300 align-baseline">
                <th scope="row" className="py-1 pr-3 text-left font-normal">
                  <VantageLink href={recordHref('products', item.product)} className="link-name">
                    {item.name}
                  </VantageLink>{' '}
                  <span className="text-xs text-soft">{item.sku}</span>
                </th>
                {item.cells.map((cell, at) => (
                  <td key={at} className="py-1 pr-3 text-right">
                    {cell && (
                      <>
                        <b className="tabular-nums">{cell.text}</b>{' '}
                        <span className="block text-xs text-soft">
                          {cell.href ? (
                            <VantageLink href={cell.href} className="hover:underline">
                              {cell.by}
                            </VantageLink>
                          ) : (
                            cell.by
                          )}
                        </span>
                      </>
                    )}
                  </td>
                ))}
                <td className="py-1">
                  {item.together.map(({ name, href: to, text }) => (
                    <span key={to} className="block">
                      <VantageLink href={to} className="link-name">
                        {name}
                      </VantageLink>{' '}
                      <span className="text-soft">{text}</span>
                    </span>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {view.more > 0 && <p className="pt-2 text-soft">And {view.more} more: narrow it by a word.</p>}
    </section>
  )
}
