'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import { Autocomplete, Input, ListBox, ListBoxItem, SearchField } from 'react-aria-components'
import type { ShopSuggestion } from './shop-view'
import { recordHref } from '@/ui/frame/record-href'

/** How long typing must rest before it is looked up, in milliseconds. */
const REST = 120

/** The shop's search: what is typed can be searched for, or one of what it may mean be opened at once. */
export function ShopSearch() {
  const router = useRouter()
  const [words, setWords] = useState('')
  const suggestions = useSuggestions(words)
  const leave = (path: string) => {
    setWords('')
    router.push(path)
  }
  return (
    <form
      action="/shop/search"
      role="search"
      className="group relative"
      onSubmit={(event) => {
        event.preventDefault()
        leave(`/shop/search?words=${encodeURIComponent(words)}`)
      }}
    >
      <Autocomplete inputValue={words} onInputChange={setWords} disableAutoFocusFirst>
        <SearchField aria-label="Search the shop" name="words">
          <Input
            placeholder="Search…"
            className="w-full border border-base-300 bg-lifted px-3 py-1.5 md:w-48"
          />
        </SearchField>
        <div
          className={
            suggestions.length === 0
              ? 'hidden'
              : 'absolute top-full right-0 z-30 mt-1 hidden w-72 border border-base-content/60 bg-base-100 group-focus-within:block'
          }
        >
          <ListBox<ShopSuggestion>
            aria-label="Products that may be meant"
            items={suggestions}
            className="py-1 outline-none"
            onAction={(code) => leave(recordHref('shop/product', String(code)))}
          >
            {({ code, name }) => (
              <ListBoxItem
                id={code}
                textValue={name}
                className="flex cursor-pointer justify-between gap-6 px-3 py-1 outline-none data-focused:bg-chosen data-hovered:bg-base-200"
              >
                <span className="min-w-0 truncate">{name}</span>
                <span className="text-soft">{code}</span>
              </ListBoxItem>
            )}
          </ListBox>
        </div>
      </Autocomplete>
    </form>
  )
}

/** What the shop suggests for some words; an answer that comes after a later question is dropped. */
function useSuggestions(words: string): readonly ShopSuggestion[] {
  const [found, setFound] = useState<{ readonly of: string; readonly list: readonly ShopSuggestion[] }>({
    of: '',
    list: [],
  })
  useEffect(() => {
    if (words.trim() === '') return
    const calling = new AbortController()
    const ask = async () => {
      const response = await fetch(`/api/shop/suggestions?words=${encodeURIComponent(words)}`, {
        signal: calling.signal,
      })
      if (response.ok) setFound({ of: words, list: (await response.json()) as readonly ShopSuggestion[] })
    }
    // A search goes on without suggestions when the network fails.
    const timer = setTimeout(() => void ask().catch(() => undefined), REST)
    return () => {
      clearTimeout(timer)
      calling.abort()
    }
  }, [words])
  // While one goes on typing what was found so far stays; for other words it says nothing.
  return words.trim() !== '' && words.startsWith(found.of) ? found.list : []
}
