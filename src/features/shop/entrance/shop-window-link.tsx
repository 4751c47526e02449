'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { serializeVantage } from '@/ui/frame/vantage-url'
import type { ReactNode } from 'react'
import { openShopWindow } from './shop-actions'

interface ShopWindowLinkProps {
  /** The page of the shop to open. */
  readonly page?: string
  readonly className?: string
  readonly autoFocus?: boolean
  readonly children: ReactNode
}

/** Opens the shop with the eyes looked through. It signs somebody in, so it is a button and no address. */
export function ShopWindowLink({
  page = '/shop',
  className,
  autoFocus = false,
  children,
}: ShopWindowLinkProps) {
  const { vantage } = useFrame()
  return (
    <form action={openShopWindow} className="contents">
      <input type="hidden" name="vantage" value={serializeVantage(vantage).toString()} />
      <input type="hidden" name="page" value={page} />
      <button type="submit" className={`text-left ${className ?? ''}`} autoFocus={autoFocus}>
        {children}
      </button>
    </form>
  )
}
