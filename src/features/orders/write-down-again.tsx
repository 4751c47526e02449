'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { writeDownAgain } from './order-actions'

/** Takes what an order held to the desk, to be ordered again at today's prices. */
export function WriteDownAgain({ number }: { readonly number: number }) {
  const [problem, setProblem] = useState('')
  const [isBusy, start] = useTransition()
  const router = useRouter()
  const { href } = useFrame()
  return (
    <>
      <button
        type="button"
        className="pt-4 link-name"
        disabled={isBusy}
        onClick={() =>
          start(async () => {
            const done = await writeDownAgain(number).catch(() => ({
              problem: 'The server did not answer. Nothing was done; try again.',
            }))
            if ('to' in done) router.push(href(done.to))
            else setProblem(done.problem)
          })
        }
      >
        Order the same again at the desk
      </button>
      {problem && (
        <p role="alert" className="pt-1 text-error">
          {problem}
        </p>
      )}
    </>
  )
}
