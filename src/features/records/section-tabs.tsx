import { VantageLink } from '@/ui/frame/vantage-link'
import { tabsOf } from '@/sheet/record/sections'

/** The pages of one place side by side; nothing where there is only one. */
export function SectionTabs({ place, path }: { readonly place: string; readonly path: string }) {
  const tabs = tabsOf(place)
  if (tabs.length < 2) return null
  return (
    <nav aria-label={place} className="flex gap-4">
      {tabs.map((tab) => (
        <VantageLink
          key={tab.path}
          href={`/${tab.path}`}
          aria-current={tab.path === path ? 'page' : undefined}
          className={`border-b-2 ${tab.path === path ? 'border-primary font-semibold' : 'border-transparent text-soft'}`}
        >
          {tab.title}
        </VantageLink>
      ))}
    </nav>
  )
}
