'use client'

import { type ReactNode, useEffect, useRef } from 'react'

/** A picker that has just unrolled, brought into sight with its foot. */
export function Unrolled({
  children,
  className = '',
}: {
  readonly children: ReactNode
  readonly className?: string
}) {
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const reveal = () => box.current?.scrollIntoView({ block: 'nearest' })
    reveal()
    // What is read from the server makes it grow.
    const observer = new ResizeObserver(reveal)
    if (box.current) observer.observe(box.current)
    const stop = setTimeout(() => observer.disconnect(), 1500)
    return () => {
      clearTimeout(stop)
      observer.disconnect()
    }
  }, [])
  return (
    <div ref={box} className={className}>
      {children}
    </div>
  )
}
