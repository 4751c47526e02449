'use client'

import { useRouter } from 'next/navigation'
import { startTransition, useCallback, useEffect } from 'react'

/** Milliseconds until it is tried again. */
const AGAIN = 4_000

/** What stands where a page could not be made, as while the database does not answer: it comes by itself as soon as it can. */
export function TryAgain({ reset }: { readonly reset: () => void }) {
  const router = useRouter()
  const again = useCallback(() => {
    startTransition(() => {
      router.refresh()
      reset()
    })
  }, [router, reset])
  useEffect(() => {
    const timer = setInterval(again, AGAIN)
    return () => clearInterval(timer)
  }, [again])
  return (
    <main className="mx-auto max-w-prose px-8 py-16 text-sm leading-6" role="alert">
      <h1 className="pb-2 text-2xl font-semibold">This page cannot be shown just now</h1>
      <p>
        Nothing that was saved is lost. The page is tried again every few seconds and comes as soon as it can.
      </p>
      <p className="pt-4">
        <button type="button" className="btn btn-sm" onClick={again}>
          Try now
        </button>
      </p>
    </main>
  )
}
