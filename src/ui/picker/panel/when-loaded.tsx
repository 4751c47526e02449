'use client'

import { type ReactNode, useEffect, useState } from 'react'

interface WhenLoadedProps<Choices> {
  /** Asked once, when the picker opens. */
  readonly load: () => Promise<Choices>
  /** What is said meanwhile. */
  readonly waiting: string
  readonly children: (choices: Choices) => ReactNode
}

/** A picker once there is something to choose from. */
export function WhenLoaded<Choices>({ load, waiting, children }: WhenLoadedProps<Choices>) {
  const [loaded, setLoaded] = useState<{ readonly choices: Choices } | null>(null)
  const [failed, setFailed] = useState(false)
  const [first] = useState(() => load)
  useEffect(() => {
    first().then(
      (choices) => setLoaded({ choices }),
      () => setFailed(true),
    )
  }, [first])
  if (failed)
    return (
      <p role="alert" className="px-6 py-4 text-error">
        The server did not answer. Close this and try again.
      </p>
    )
  return loaded ? children(loaded.choices) : <p className="px-6 py-4 text-soft">{waiting}</p>
}
