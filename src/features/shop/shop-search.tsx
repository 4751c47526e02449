'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import { ComboBox, Input, ListBox, ListBoxItem, Popover } from 'react-aria-components'
import type { ShopSuggestion } from './shop-view'

/** How long typing must rest before it is looked up, in milliseconds. */
const REST = 120

/** The shop's search: what is typed can be searched for, or one of what it may mean be opened at once. */
export function ShopSearch() {
  const router = useRouter()
  const [words, setWords] = useState('')
  const suggestions = useSuggestions(words)
  return (
    <form
      action="/shop/search"
      role="search"
      onSubmit={(event) => {
        event.preventDefault()
        router.push(`/shop/search?words=${encodeURIComponent(words)}`)
      }}
    >
      <ComboBox
        aria-label="Search the shop"
        name="words"
        formValue="text"
        menuTrigger="input"
        allowsCustomValue
        allowsEmptyCollection={false}
        items={suggestions}
        inputValue={words}
        onInputChange={setWords}
        onSelectionChange={(code) => {
          if (code === null) return
          setWords('')
          router.push(`/shop/product/${encodeURIComponent(String(code))}`)
        }}
      >
        <Input
          type="search"
          placeholder="Search…"
          className="w-36 border border-base-300 bg-lifted px-3 py-1.5"
        />
        <Popover
          placement="bottom start"
          className="min-w-64 border border-base-content/60 bg-base-100 shadow-sm"
        >
          <ListBox<ShopSuggestion> className="py-1 outline-none">
            {({ code, name }) => (
              <ListBoxItem
                id={code}
                textValue={name}
                className="flex cursor-pointer justify-between gap-6 px-3 py-1 outline-none data-focused:bg-chosen"
              >
                <span>{name}</span>
                <span className="text-soft">{code}</span>
              </ListBoxItem>
            )}
          </ListBox>
        </Popover>
      </ComboBox>
    </form>
  )
}

/** What the shop suggests for some words; an answer that comes after a later question is let go. */
function useSuggestions(words: string): readonly ShopSuggestion[] {
  const [found, setFound] = useState<readonly ShopSuggestion[]>([])
  useEffect(() => {
    const calling = new AbortController()
    const ask = async () => {
      const response = await fetch(`/api/shop/suggestions?words=${encodeURIComponent(words)}`, {
        signal: calling.signal,
      })
      if (response.ok) setFound((await response.json()) as readonly ShopSuggestion[])
    }
    // A search goes on without suggestions when the network fails.
    const timer = setTimeout(() => void ask().catch(() => undefined), words.trim() === '' ? 0 : REST)
    return () => {
      clearTimeout(timer)
      calling.abort()
    }
  }, [words])
  return words.trim() === '' ? [] : found
}
