'use client'

import type { What } from '@/core/predicates/what'
import { useEffect, useRef, useState } from 'react'
import type { FoundItem, ReadWords, WhatChoices, WhatMatched } from './what-choices'

/** What a picker asks while it is open. */
export interface WhatSource {
  readonly load: (initial: What) => Promise<WhatChoices>
  readonly find: (words: string) => Promise<readonly FoundItem[]>
  readonly match: (what: What) => Promise<WhatMatched>
  readonly read: (words: string) => Promise<ReadWords>
}

/** How long typing must rest before the server is asked, in milliseconds. */
const REST = 80

/** What the words in the field may mean; what was found for a beginning of them stays meanwhile. */
export function useFound<Item = FoundItem>(
  { find }: { readonly find: (words: string) => Promise<readonly Item[]> },
  typed: string,
): readonly Item[] {
  const [found, setFound] = useState<{ readonly of: string; readonly items: readonly Item[] }>({
    of: '',
    items: [],
  })
  const words = typed.trim()
  useEffect(() => {
    if (words === '') return
    let isCurrent = true
    const timer = setTimeout(() => {
      find(words).then(
        (items) => isCurrent && setFound({ of: words, items }),
        () => undefined,
      )
    }, REST)
    return () => {
      isCurrent = false
      clearTimeout(timer)
    }
  }, [find, words])
  return words !== '' && words.startsWith(found.of) ? found.items : []
}

/**
 * What a scope matches; what it matched before while it is being asked. One question is under way at a time, and the
 * latest scope counts: a hand is quicker than a network.
 */
export function useMatched({ match }: WhatSource, what: What): WhatMatched | null {
  const [matched, setMatched] = useState<WhatMatched | null>(null)
  const wanted = useRef<{ readonly match: WhatSource['match']; readonly what: What } | null>(null)
  const isAsking = useRef(false)
  useEffect(() => {
    wanted.current = { match, what }
    const follow = async () => {
      isAsking.current = true
      for (let asked = null; asked !== wanted.current && wanted.current;) {
        asked = wanted.current
        const next = await asked.match(asked.what).catch(() => null)
        if (next && asked === wanted.current) setMatched(next)
      }
      isAsking.current = false
    }
    if (!isAsking.current) void follow()
  }, [match, what])
  useEffect(
    () => () => {
      wanted.current = null
    },
    [],
  )
  return matched
}
