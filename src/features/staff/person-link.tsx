'use client'

import { VantageLink } from '@/ui/frame/vantage-link'

/** Who is at work, leading to what they may do; in a demo, that nobody was asked. */
export function PersonLink({ name, isOpenDoor }: { readonly name: string; readonly isOpenDoor: boolean }) {
  return (
    <VantageLink
      href="/me"
      className="max-w-40 truncate text-soft hover:text-base-content"
      title={isOpenDoor ? 'Nobody is asked who they are in this demo' : 'What you may do, your password'}
    >
      {isOpenDoor ? 'Demo owner' : name}
    </VantageLink>
  )
}
