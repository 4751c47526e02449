'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { TypedWord } from '@/ui/frame/typed-word'
import { VantageLink } from '@/ui/frame/vantage-link'
import { withVantage } from '@/ui/frame/vantage-url'
import { useRouter } from 'next/navigation'
import type { ItemLanes } from './item-lanes'

const FILLS = {
  decides: 'border border-primary/50 bg-bar',
  beaten: 'border border-base-300',
  base: 'border border-base-300 bg-hatched',
  nothing: 'border border-error bg-hatched',
} as const

/** What decides the price of one item over the drawn time: a lane for each list that has a say. */
export function ItemLanesView({ lanes, names }: { readonly lanes: ItemLanes; readonly names: string }) {
  return (
    <section aria-label="Price of one item">
      <h2 className="flex flex-wrap items-baseline gap-x-2 border-b border-base-300 py-1 text-xs font-semibold text-soft">
        What {lanes.buyer} pays for
        <SkuField key={lanes.sku} sku={lanes.sku} />
        <span className="font-normal">{lanes.title || 'type a SKU to see which list decides when'}</span>
        {lanes.problem && (
          <span role="alert" className="text-error">
            {lanes.problem}
          </span>
        )}
      </h2>
      <ul>
        {lanes.lanes.map(({ name, href, bars }) => (
          <li key={name} className="flex items-center border-b border-base-300 py-1">
            <span className={`truncate ${names}`} title={name}>
              {href ? (
                <VantageLink href={href} className="hover:underline">
                  {name}
                </VantageLink>
              ) : (
                <span className="text-soft">{name}</span>
              )}
            </span>
            <span className="relative h-4 flex-1">
              {bars.map(({ from, to, kind, words }) => (
                <span
                  key={from}
                  title={kind === 'beaten' ? `holds, ${words}` : words}
                  className={`absolute inset-y-0.5 ${FILLS[kind]}`}
                  style={{ left: `${from * 100}%`, width: `${Math.max(0.3, (to - from) * 100)}%` }}
                />
              ))}
              {bars.map(({ from, to, kind, words }) =>
                kind === 'beaten' ? (
                  <span key={from} className="sr-only">
                    holds, {words}
                  </span>
                ) : (
                  <span
                    key={from}
                    className="absolute overflow-hidden px-1.5 text-xs leading-4 whitespace-nowrap"
                    style={{ left: `${from * 100}%`, width: `${(to - from) * 100}%` }}
                  >
                    {words.split(', ')[0]}
                  </span>
                ),
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function SkuField({ sku }: { readonly sku: string }) {
  const { vantage } = useFrame()
  const router = useRouter()
  const show = (wanted: string) => {
    const href = wanted === '' ? '/calendar' : `/calendar?${new URLSearchParams({ sku: wanted }).toString()}`
    router.push(withVantage(href, vantage), { scroll: false })
  }
  return <TypedWord label="SKU whose price is drawn" value={sku} placeholder="SKU" width={14} onDone={show} />
}
