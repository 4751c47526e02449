import type { ReactNode } from 'react'

/** How a field of the shop looks. */
export const SHOP_INPUT =
  'w-full border border-base-300 bg-lifted px-3 py-1.5 aria-[invalid=true]:border-error'

/** A field of a form of the shop under its name, with what is wrong with it. */
export function Labelled({
  label,
  problem,
  children,
}: {
  readonly label: string
  readonly problem?: string | undefined
  readonly children: ReactNode
}) {
  return (
    <label className="block">
      <span className="text-soft">{label}</span>
      {children}
      {problem && (
        <span role="alert" className="block text-error">
          {problem}
        </span>
      )}
    </label>
  )
}
