'use client'

import { isBuyerCode } from '@/core/buyers/buyer-code'
import { useFrame } from '@/ui/frame/frame-context'
import type { Place } from '@/ui/frame/places'
import { useLoaded } from '@/ui/frame/use-loaded'
import { switchTheme } from '@/ui/theme/theme-switch'
import { Command } from 'cmdk'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import type { FoundRecords } from './find-records'

const ROW = 'data-[selected=true]:bg-chosen flex cursor-pointer justify-between gap-4 px-4 py-1.5'
const SWITCH_THEME = 'Switch between light and dark'
/** Finds any record or action from anywhere. */
export function Palette({ places }: { readonly places: readonly Place[] }) {
  const [open, setOpen] = useState(false)
  const [words, setWords] = useState('')
  const { href, setVantage } = useFrame()
  const router = useRouter()
  const { value } = useLoaded<FoundRecords>(
    open && words.trim() !== '' ? `/api/find?words=${encodeURIComponent(words)}` : null,
    0,
  )
  const found = value?.words === words ? value.found : []
  useHotkeys('mod+k', () => setOpen(true), { preventDefault: true, enableOnFormTags: true })

  const choose = (act: () => void) => () => {
    setOpen(false)
    setWords('')
    act()
  }
  const placesFound = places.filter(({ name }) => name.toLowerCase().includes(words.toLowerCase()))
  return (
    <>
      <button
        type="button"
        className="flex items-center gap-1.5 whitespace-nowrap text-soft hover:text-base-content"
        onClick={() => setOpen(true)}
      >
        Find <kbd className="border border-base-300 bg-base-100 px-1 text-xs">Ctrl K</kbd>
      </button>
      <Command.Dialog
        open={open}
        onOpenChange={setOpen}
        shouldFilter={false}
        label="Find anything"
        overlayClassName="fixed inset-0 z-50 bg-black/25"
        contentClassName="bg-base-100 border-base-300 fixed top-24 left-1/2 z-50 w-[560px] -translate-x-1/2 border"
      >
        <Command.Input
          value={words}
          onValueChange={setWords}
          placeholder="A product, a price list, somebody to look as…"
          className="w-full border-b border-base-300 bg-transparent px-4 py-3 text-sm outline-none"
        />
        <Command.List className="max-h-96 overflow-auto py-1">
          <Command.Empty className="px-4 py-3 text-soft">No results.</Command.Empty>
          {placesFound.length > 0 && (
            <Command.Group heading="Go to">
              {placesFound.map((place) => (
                <Command.Item
                  key={place.href}
                  value={place.href}
                  className={ROW}
                  onSelect={choose(() => router.push(href(place.href)))}
                >
                  {place.name} <kbd className="text-soft">G then {place.key.toUpperCase()}</kbd>
                </Command.Item>
              ))}
            </Command.Group>
          )}
          {/* Kinds in the order their first record was found. */}
          {[...new Set(found.map(({ kind }) => kind))].map((kind) => {
            const ofKind = found.filter((each) => each.kind === kind)
            return (
              <Command.Group key={kind} heading={kind}>
                {ofKind.map(({ to, title, about }) => (
                  <Command.Item
                    key={to}
                    value={to}
                    className={ROW}
                    onSelect={choose(() =>
                      isBuyerCode(to) ? setVantage({ as: to }) : router.push(href(to)),
                    )}
                  >
                    {title} <span className="text-soft">{about}</span>
                  </Command.Item>
                ))}
              </Command.Group>
            )
          })}
          {SWITCH_THEME.toLowerCase().includes(words.toLowerCase()) && (
            <Command.Group heading="Do">
              <Command.Item value="theme" className={ROW} onSelect={choose(switchTheme)}>
                {SWITCH_THEME}
              </Command.Item>
            </Command.Group>
          )}
        </Command.List>
      </Command.Dialog>
    </>
  )
}
