import { FINDING_GROUPS } from '@/core/finding/finding'
import { VantageLink } from '@/ui/frame/vantage-link'
import { GROUP_WORDS } from './finding-sentences'
import { FindingRowView } from './finding-row'
import type { FindingsView } from './findings-view'

/** What is probably not as the merchant wants it, worst first. */
export function FindingsPage({ view }: { readonly view: FindingsView }) {
  const { rows, places, all, mutedCount, shown, about, draft } = view
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Findings">
      <header className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-xl leading-7 font-semibold">Findings</h1>
        <p className="text-soft">
          {about}, in {draft === null ? 'live prices' : `draft “${draft}”`}, worst first
        </p>
      </header>
      <nav aria-label="Where they are" className="flex flex-wrap gap-x-5 border-b border-base-content pt-2">
        <Tab href="/findings" isHere={shown.place === null && !shown.muted} name={`All ${all}`} />
        {places.map(({ place, count }) => (
          <Tab
            key={place}
            href={`/findings?place=${encodeURIComponent(place)}`}
            isHere={shown.place === place}
            name={`${place} ${count}`}
          />
        ))}
        {mutedCount > 0 && (
          <span className="ml-auto">
            <Tab href="/findings?muted=1" isHere={shown.muted} name={`Muted ${mutedCount}`} />
          </span>
        )}
      </nav>
      {rows.length === 0 && <p className="py-4 text-soft">Nothing is found here.</p>}
      {FINDING_GROUPS.map((group) => {
        const some = rows.filter((row) => row.group === group)
        if (some.length === 0) return null
        return (
          <section
            key={group}
            className="grid grid-cols-[96px_1fr] border-b border-base-content"
            aria-label={GROUP_WORDS[group]}
          >
            <h2 className="py-2 text-xs font-semibold">{GROUP_WORDS[group]}</h2>
            <ul>
              {some.map((row) => (
                <FindingRowView key={row.key} row={row} view={view} />
              ))}
            </ul>
          </section>
        )
      })}
    </section>
  )
}

function Tab({
  href,
  isHere,
  name,
}: {
  readonly href: string
  readonly isHere: boolean
  readonly name: string
}) {
  return (
    <VantageLink
      href={href}
      aria-current={isHere ? 'page' : undefined}
      className={`border-b-2 pb-1 ${isHere ? 'border-primary font-semibold' : 'border-transparent text-soft hover:text-base-content'}`}
    >
      {name}
    </VantageLink>
  )
}
