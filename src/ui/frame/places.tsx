'use client'

import { IconBuildingStore } from '@tabler/icons-react'
import { usePathname, useRouter } from 'next/navigation'
import type { ReactNode } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { useDrafts } from './drafts-context'
import { useFrame } from './frame-context'
import { useLoaded } from './use-loaded'
import { VantageLink } from './vantage-link'
import { withVantage } from './vantage-url'

export interface Place {
  readonly href: string
  readonly name: string
  readonly group: 'Look' | 'Set' | 'Sell' | 'Prove' | 'Doors'
  /** Pressed after G to go there. */
  readonly key: string
  readonly count?: number
  /** Where the count is asked for, if it takes a while: of what is to be put right. */
  readonly counted?: string
  /** Whether what is counted so is work to do, not something wrong. */
  readonly isWork?: boolean
  /** Other addresses that belong to the place. */
  readonly beside?: readonly string[]
}

const GROUPS = ['Look', 'Set', 'Sell', 'Prove', 'Doors'] as const

/** The slim column of words on the left, in the order the work is done. */
export function Places({
  places,
  storeName,
  shopWindow,
}: {
  readonly places: readonly Place[]
  readonly storeName: string
  /** What opens the shop: it signs somebody in, so it is no link. */
  readonly shopWindow: ReactNode
}) {
  const path = usePathname()
  return (
    <nav
      aria-label="Places"
      className="flex w-36 shrink-0 flex-col gap-4 overflow-auto border-r border-base-300 pt-4"
    >
      {GROUPS.filter((group) => places.some((place) => place.group === group)).map((group) => (
        <div key={group}>
          <h2 className="px-4 pb-1 text-2xs font-semibold text-soft">{group}</h2>
          <ul>
            {places
              .filter((place) => place.group === group)
              .map((place) => {
                const here = [place.href, ...(place.beside ?? [])].some(
                  (each) => path === each || path.startsWith(`${each}/`),
                )
                return (
                  <li key={place.href}>
                    <PlaceJump place={place} />
                    {place.href === '/look-as-buyer' ? (
                      shopWindow
                    ) : (
                      <VantageLink
                        href={place.href}
                        aria-current={here ? 'page' : undefined}
                        className={`flex justify-between border-l-4 py-1 pr-3 pl-3 ${
                          here ? 'border-primary font-semibold' : 'border-transparent hover:bg-base-200'
                        }`}
                      >
                        {place.name}
                        {place.count !== undefined && (
                          <span className="font-normal text-soft">{place.count}</span>
                        )}
                        {place.counted && (
                          <LateCount address={place.counted} isWork={place.isWork === true} />
                        )}
                      </VantageLink>
                    )}
                  </li>
                )
              })}
          </ul>
        </div>
      ))}
      <p className="mt-auto flex items-start gap-1.5 px-4 py-3 text-xs leading-4 text-soft">
        <IconBuildingStore size={14} stroke={1.75} className="mt-px shrink-0" aria-hidden />
        {storeName}
      </p>
    </nav>
  )
}

/** A count that takes a while: what stands here goes on without it. */
function LateCount({ address, isWork }: { readonly address: string; readonly isWork: boolean }) {
  const { vantage } = useFrame()
  const { version } = useDrafts()
  const { value } = useLoaded<{ readonly count: number | null }>(withVantage(address, vantage), version)
  return value?.count ? (
    <span className={isWork ? 'font-normal text-soft' : 'font-semibold text-error'}>{value.count}</span>
  ) : null
}

function PlaceJump({ place }: { readonly place: Place }) {
  const router = useRouter()
  const { href } = useFrame()
  useHotkeys(`g>${place.key}`, () => router.push(href(place.href)), [router, href, place])
  return null
}
