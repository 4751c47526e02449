import { VantageLink } from '@/ui/frame/vantage-link'
import type { ReactNode } from 'react'

/** A part of what stands beside a sheet, under its title. */
export function SideList({
  title,
  about,
  children,
}: {
  readonly title: string
  readonly about?: string
  readonly children: ReactNode
}) {
  return (
    <section className="not-first:mt-5">
      <h2 className="pb-1 text-sm font-semibold">{title}</h2>
      {about && <p className="pb-1 text-xs text-soft">{about}</p>}
      {children}
    </section>
  )
}

interface SideRowProps {
  readonly name: string
  readonly href?: string | null
  /** In small below the name. */
  readonly about?: ReactNode
  /** On the right: a figure. */
  readonly children?: ReactNode
}

/** A name with a figure, and what is worth knowing of it below. */
export function SideRow({ name, href = null, about = '', children }: SideRowProps) {
  return (
    <div className="border-b border-base-300 py-1">
      <p className="flex items-baseline justify-between gap-3">
        {href === null ? (
          <span>{name}</span>
        ) : (
          <VantageLink href={href} className="link-name">
            {name}
          </VantageLink>
        )}
        <span className="shrink-0 text-right font-semibold tabular-nums">{children}</span>
      </p>
      {about && <p className="text-xs text-soft">{about}</p>}
    </div>
  )
}

/** What is good to know about a sheet, beside a bar. */
export function SheetNote({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <div className="mt-5 max-w-xl border-l-[3px] border-primary pl-3">
      <h3 className="font-semibold">{title}</h3>
      <p className="text-soft">{children}</p>
    </div>
  )
}

interface SheetTableProps {
  readonly caption: string
  /** Headings; those after the first stand on the right. */
  readonly heads: readonly string[]
  readonly children: ReactNode
}

/** A table of a sheet: names on the left, figures on the right. */
export function SheetTable({ caption, heads, children }: SheetTableProps) {
  return (
    <table className="w-full">
      <caption className="sr-only">{caption}</caption>
      <thead>
        <tr className="border-b border-base-content text-right align-bottom">
          {heads.map((head, at) => (
            <th key={at} className={`py-1 font-semibold ${at === 0 ? 'text-left' : 'pl-4'}`}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="[&_td]:border-b [&_td]:border-base-300 [&_td]:py-1 [&_td:not(:first-child)]:pl-4 [&_td:not(:first-child)]:text-right">
        {children}
      </tbody>
    </table>
  )
}
