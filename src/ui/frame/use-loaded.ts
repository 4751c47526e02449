'use client'

import { useEffect, useState } from 'react'

interface Loaded<Value> {
  readonly value: Value | null
  readonly problem: string | null
}

/**
 * Something read from the server, read again whenever its address changes or `version` grows. The value
 * before stays until the new one is there, so that a screen does not blink.
 */
export function useLoaded<Value>(address: string | null, version: number): Loaded<Value> {
  const [loaded, setLoaded] = useState<Loaded<Value>>({ value: null, problem: null })
  useEffect(() => {
    if (address === null) return
    const abort = new AbortController()
    fetch(address, { signal: abort.signal })
      .then(async (response) => {
        const body = (await response.json()) as Value & { error?: string }
        setLoaded(
          response.ok
            ? { value: body, problem: null }
            : { value: null, problem: body.error ?? 'The server could not answer.' },
        )
      })
      .catch((error: unknown) => {
        if (abort.signal.aborted) return
        setLoaded({ value: null, problem: `The server did not answer (${String(error)}).` })
      })
    return () => abort.abort()
  }, [address, version])
  return loaded
}
