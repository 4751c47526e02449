'use client'

import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { removeRate } from './set-rate'

/** Removes one rate, where it was a slip. */
export function RemoveRate({ id, label }: { readonly id: string; readonly label: string }) {
  const [problem, setProblem] = useState<string | null>(null)
  const router = useRouter()
  return (
    <span className="ml-auto">
      {problem && (
        <span role="alert" className="pr-2 text-error">
          {problem}
        </span>
      )}
      <button
        type="button"
        aria-label={`Remove ${label}`}
        className="link-name"
        onClick={() =>
          void removeRate(id).then((wrong) => {
            setProblem(wrong)
            if (wrong === null) router.refresh()
          })
        }
      >
        Remove
      </button>
    </span>
  )
}
