import type { ReactNode } from 'react'
import { FrameHeader } from './frame-header'
import { ThemeSwitch } from '../theme/theme-switch'
import { type Place, Places } from './places'

interface MerchantFrameProps {
  readonly storeName: string
  readonly places: readonly Place[]
  readonly vantage: ReactNode
  /** Find, keys: what works from everywhere. */
  readonly tools: ReactNode
  readonly trace: ReactNode
  /** What is amiss with the server. */
  readonly notice: ReactNode
  /** Along the bottom: the draft at hand. */
  readonly bar: ReactNode
  readonly shopWindow: ReactNode
  /** Who is at work. */
  readonly person: ReactNode
  readonly children: ReactNode
}

/** The frame around every place of the merchant: vantage above, places left, the trace right. */
export function MerchantFrame({
  storeName,
  places,
  vantage,
  tools,
  trace,
  notice,
  bar,
  shopWindow,
  person,
  children,
}: MerchantFrameProps) {
  return (
    <div className="flex h-dvh flex-col overflow-hidden">
      <a
        href="#surface"
        className="absolute -top-10 left-2 z-50 bg-primary px-3 py-1 text-primary-content focus:top-2"
      >
        Skip to the work
      </a>
      <FrameHeader>
        <div className="flex w-36 shrink-0 items-center gap-2 px-4 text-sm font-bold">
          <svg viewBox="0 0 32 32" width="20" height="20" aria-hidden>
            <path
              d="M3 22c6-1 7-9 13-9s6 6 13 4"
              fill="none"
              stroke="var(--color-primary)"
              strokeWidth="3.5"
              strokeLinecap="round"
            />
            <circle cx="23" cy="8" r="3" fill="var(--color-accent)" />
          </svg>
          Steppe
        </div>
        <div className="min-w-0 flex-1 px-4">{vantage}</div>
        <div className="flex shrink-0 items-center gap-4">
          {tools}
          {person}
          <ThemeSwitch />
        </div>
      </FrameHeader>
      {notice}
      <div className="flex min-h-0 flex-1">
        <Places places={places} storeName={storeName} shopWindow={shopWindow} />
        <main id="surface" tabIndex={-1} className="flex min-h-0 min-w-0 flex-1 flex-col outline-none">
          {children}
        </main>
        {trace}
      </div>
      {bar}
    </div>
  )
}
