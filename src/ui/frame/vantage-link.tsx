'use client'

import Link from 'next/link'
import type { ComponentProps } from 'react'
import { useFrame } from './frame-context'

/** A link inside the merchant's frame: whose eyes are looked through stays the same. */
export function VantageLink({
  href,
  ...rest
}: Omit<ComponentProps<typeof Link>, 'href'> & { readonly href: string }) {
  // A grid full of links must not read every page behind them.
  return <Link href={useFrame().href(href)} prefetch={false} {...rest} />
}
