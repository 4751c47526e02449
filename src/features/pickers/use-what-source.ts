'use client'

import type { What } from '@/core/predicates/what'
import { useFrame } from '@/ui/frame/frame-context'
import type { WhatSource } from '@/ui/picker/what-picker'
import { useMemo } from 'react'
import { findWhatItems, loadWhatChoices, matchScope, readWhatWords } from './load-choices'

/** What the picker of a scope asks the server, as seen from the vantage. */
export function useWhatSource(): WhatSource {
  const { vantage } = useFrame()
  return useMemo(
    () => ({
      load: loadWhatChoices,
      find: findWhatItems,
      match: (what: What) => matchScope(what, vantage),
      read: readWhatWords,
    }),
    [vantage],
  )
}
