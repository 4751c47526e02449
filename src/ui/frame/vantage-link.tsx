'use client'

import type { BuyerCode } from '@/core/buyers/buyer-code'
import Link from 'next/link'
import type { ComponentProps } from 'react'
import { useFrame } from './frame-context'
import { withVantage } from './vantage-url'

interface VantageLinkProps extends Omit<ComponentProps<typeof Link>, 'href' | 'as'> {
  readonly href: string
  /** Somebody to look as from there on; left out, whose eyes are looked through stays the same. */
  readonly lookAs?: BuyerCode
  /** An instant to look at from there on. */
  readonly lookOn?: string
  /** A draft to look through from there on, by its code; `null` is live. */
  readonly lookDraft?: string | null
}

/** A link inside the merchant's frame that keeps the vantage. */
export function VantageLink({ href, lookAs, lookOn, lookDraft, ...rest }: VantageLinkProps) {
  const { vantage } = useFrame()
  const from = {
    ...vantage,
    ...(lookAs !== undefined && { as: lookAs }),
    ...(lookOn !== undefined && { on: lookOn }),
    ...(lookDraft !== undefined && { draft: lookDraft }),
  }
  // A grid full of links must not read every page behind them.
  return <Link href={withVantage(href, from)} prefetch={false} {...rest} />
}
