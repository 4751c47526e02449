'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'

/** Milliseconds between two looks at whether the database answers: while it does, and while it does not. */
const LOOK_EVERY = 10_000
const LOOK_AGAIN = 3_000

/** Says that the database does not answer, as long as that is so; what can be seen is brought up to date when it is back. */
export function DatabaseNotice({
  isGone: wasGone,
  words,
}: {
  /** Whether it was gone when the page was drawn. */
  readonly isGone: boolean
  readonly words: string
}) {
  const router = useRouter()
  const [isGone, setIsGone] = useState(wasGone)
  const known = useRef(wasGone)
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>
    let isLeft = false
    const look = async () => {
      // A server that is not there at all cannot say anything, and then the page stays as it is.
      const answer = await fetch('/ready', { cache: 'no-store' }).catch(() => null)
      if (isLeft) return
      if (answer && known.current === answer.ok) {
        known.current = !answer.ok
        setIsGone(!answer.ok)
        if (answer.ok) router.refresh()
      }
      timer = setTimeout(() => void look(), known.current ? LOOK_AGAIN : LOOK_EVERY)
    }
    timer = setTimeout(() => void look(), known.current ? LOOK_AGAIN : LOOK_EVERY)
    return () => {
      isLeft = true
      clearTimeout(timer)
    }
  }, [router])
  if (!isGone) return null
  return (
    <p role="alert" className="bg-warning px-4 py-1.5 text-warning-content md:px-8">
      {words}
    </p>
  )
}
