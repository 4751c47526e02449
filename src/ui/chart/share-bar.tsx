export type ShareKind = 'agreed' | 'other' | 'base' | 'none' | 'outside'

interface ShareBarProps {
  readonly parts: readonly { readonly name: string; readonly count: number; readonly kind: ShareKind }[]
  readonly total: number
  readonly label: string
}

const FILL: Readonly<Record<ShareKind, string>> = {
  agreed: 'bg-primary',
  other: 'bg-bar',
  base: 'bg-base-content/25',
  none: 'bg-error',
  outside: 'bg-hatched border border-base-300',
}

/** How a whole is shared out, as one bar with its parts named and counted below. */
export function ShareBar({ parts, total, label }: ShareBarProps) {
  return (
    <figure className="pb-4" aria-label={label}>
      <div aria-hidden className="flex h-2.5">
        {parts
          .filter(({ count }) => count > 0)
          .map(({ name, count, kind }) => (
            <span key={name} className={FILL[kind]} style={{ width: `${(count / total) * 100}%` }} />
          ))}
      </div>
      <figcaption className="flex flex-wrap gap-x-5 pt-1">
        {parts.map(({ name, count, kind }) => (
          <span key={name} className={count === 0 ? 'text-soft' : ''}>
            <span aria-hidden className={`mr-1.5 inline-block h-2 w-2 ${FILL[kind]}`} />
            {name} <b>{count}</b>
          </span>
        ))}
        <span className="ml-auto text-soft">of {total} variants</span>
      </figcaption>
    </figure>
  )
}
