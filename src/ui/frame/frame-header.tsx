'use client'

import type { ReactNode } from 'react'
import { useFrame } from './frame-context'

/** The strip above everything; its edge tells from afar that a draft is looked through. */
export function FrameHeader({ children }: { readonly children: ReactNode }) {
  const { vantage } = useFrame()
  const edge = vantage.draft === null ? 'border-b border-base-300' : 'border-b-2 border-accent'
  return <header className={`flex min-h-[46px] items-center bg-base-200 pr-4 ${edge}`}>{children}</header>
}
