'use client'

import { useSyncExternalStore } from 'react'

const NEVER_CHANGES = () => () => undefined

/** Whether the page answers to mouse and keyboard yet: the mark browser tests wait for. */
export function useReady(): boolean {
  return useSyncExternalStore(
    NEVER_CHANGES,
    () => true,
    () => false,
  )
}
