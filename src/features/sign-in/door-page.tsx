import { ThemeSwitch } from '@/ui/theme/theme-switch'
import type { ReactNode } from 'react'

/** A page at the door: the store's name, one thing to do, nothing else. */
export function DoorPage({
  title,
  about,
  children,
}: {
  readonly title: string
  readonly about: ReactNode
  readonly children: ReactNode
}) {
  return (
    <main className="flex min-h-dvh">
      <div className="hidden w-2/5 flex-col justify-end bg-base-200 p-12 md:flex" aria-hidden>
        <svg viewBox="0 0 400 160" className="w-full">
          <path
            d="M0 120c60-10 70-70 140-70s60 50 120 40 70-40 140-30"
            fill="none"
            stroke="var(--color-primary)"
            strokeWidth="10"
            strokeLinecap="round"
          />
          <circle cx="300" cy="34" r="12" fill="var(--color-accent)" />
        </svg>
      </div>
      <div className="flex flex-1 flex-col px-8 py-8 md:px-16">
        <p className="flex justify-between text-sm font-bold">
          Steppe
          <ThemeSwitch />
        </p>
        <div className="my-auto w-full max-w-sm py-12">
          <h1 className="text-2xl leading-8 font-semibold">{title}</h1>
          <p className="pt-1 pb-6 text-soft">{about}</p>
          {children}
        </div>
      </div>
    </main>
  )
}
