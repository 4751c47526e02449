'use client'

import { useEffect, useRef, useState } from 'react'

export interface Answered<Answer> {
  /** What the server said last. */
  readonly answer: Answer
  /** Whether that is of what is asked now. */
  readonly isSettled: boolean
  /** Whether the server did not answer the last question. */
  readonly isOff: boolean
}

interface Asking<Question, Answer> {
  /** What is known before anything is asked. */
  readonly first: Answer
  /** The question it answers: that one is not asked; `null` where it answers none. */
  readonly firstOf: Question | null
  /** How long a question must rest before it is asked, in milliseconds. */
  readonly rest: number
}

/**
 * The server's answer to what is being typed: asked anew a moment after the question, told apart by
 * identity, changed; a question of `null` is not asked. The answer before stays until the new one is there.
 */
export function useAnswer<Question, Answer>(
  address: string,
  question: Question | null,
  { first, firstOf, rest }: Asking<Question, Answer>,
): Answered<Answer> {
  const [known, setKnown] = useState({ of: firstOf, answer: first, isOff: false })
  const asked = useRef(firstOf)
  useEffect(() => {
    if (question === null || asked.current === question) return
    const stop = new AbortController()
    const timer = setTimeout(() => {
      asked.current = question
      fetch(address, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(question),
        signal: stop.signal,
      })
        .then(async (response) => {
          if (!response.ok) throw new Error(String(response.status))
          setKnown({ of: question, answer: (await response.json()) as Answer, isOff: false })
        })
        .catch(() => {
          if (!stop.signal.aborted) setKnown((before) => ({ ...before, isOff: true }))
        })
    }, rest)
    return () => {
      clearTimeout(timer)
      stop.abort()
    }
  }, [address, question, rest])
  return { answer: known.answer, isSettled: known.of === question, isOff: known.isOff }
}
