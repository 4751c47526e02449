import type { ChangeWords } from '@/sheet/effect/change-words'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { ReactNode } from 'react'
import { TakeOut } from './take-out'
import type { ImpactView, ReviewView } from './review-view'

/** Who sees and may buy what else, and whose limits and taxes are others. */
export function WhoSees({ view: { sees, others } }: { readonly view: ImpactView }) {
  if (sees.length === 0 && others.length === 0)
    return <p className="py-4 text-soft">Everybody sees, and may do, what they did before.</p>
  return (
    <>
      <ul aria-label="Who sees what">
        {sees.map(({ name, what, count, some }) => (
          <li key={`${name} ${what}`} className="border-b border-base-300 py-1.5">
            <b>{name}</b> {what} <b>{count}</b> {count === 1 ? 'variant' : 'variants'}
            <span className="block text-xs text-soft">
              {some}
              {count > 3 && ` · and ${count - 3} more`}
            </span>
          </li>
        ))}
      </ul>
      {others.map((line) => (
        <p key={line} className="border-b border-base-300 py-1.5">
          {line}
        </p>
      ))}
    </>
  )
}

export function Contracts({ view: { contracts } }: { readonly view: ImpactView }) {
  if (contracts.length === 0) return <p className="py-4 text-soft">No price of a contract moves.</p>
  return (
    <ul aria-label="Contracts">
      {contracts.map(({ name, href, moved, below }) => (
        <li key={href} className="flex justify-between border-b border-base-300 py-1.5">
          <VantageLink href={href} className="link-name">
            {name}
          </VantageLink>
          <span>
            <b>{moved}</b> {moved === 1 ? 'price moves' : 'prices move'}
            {below > 0 && (
              <b className="text-error">
                , {below} {below === 1 ? 'falls' : 'fall'} below cost
              </b>
            )}
          </span>
        </li>
      ))}
    </ul>
  )
}

const WAYS: Readonly<Record<ChangeWords['way'], string>> = { new: 'new', changed: '', removed: 'removed' }
const MOST_SHOWN = 500

/** Every record the draft changes, field by field. */
export function AllChanges({ view: { code, changes } }: { readonly view: ReviewView }) {
  if (changes.length === 0)
    return (
      <p className="py-4 text-soft">
        Nothing yet. Whatever is changed while looking through the draft goes into it.
      </p>
    )
  return (
    <table className="w-full" aria-label="All changes">
      <tbody>
        {changes.slice(0, MOST_SHOWN).map(({ kind, id, noun, title, href, way, fields }) => (
          <tr key={`${kind} ${id}`} className="border-b border-base-300 align-baseline">
            <td className="w-[34%] py-1.5 pr-4">
              {href ? (
                <VantageLink href={href} className="link-name">
                  {title}
                </VantageLink>
              ) : (
                <b>{title}</b>
              )}
              <span className="block text-xs text-soft">{[noun, WAYS[way]].filter(Boolean).join(', ')}</span>
            </td>
            <td className="py-1.5 pr-4">
              {way === 'changed' ? (
                <ul>
                  {fields.map(({ name, from, to }) => (
                    <li key={name}>
                      <span className="text-soft">
                        {name}: {from || 'nothing'} →
                      </span>{' '}
                      <b>{to || 'nothing'}</b>
                    </li>
                  ))}
                </ul>
              ) : (
                <span className="text-soft">
                  {fields
                    .slice(0, 4)
                    .map(({ name, from, to }) => `${name}: ${way === 'new' ? to : from}`)
                    .join(' · ')}
                </span>
              )}
            </td>
            <td className="py-1.5 text-right">
              <TakeOut code={code} record={{ kind, id }} title={title} />
            </td>
          </tr>
        ))}
      </tbody>
      {changes.length > MOST_SHOWN && (
        <tfoot>
          <tr>
            <td className="py-1 text-soft">and {changes.length - MOST_SHOWN} more</td>
          </tr>
        </tfoot>
      )}
    </table>
  )
}

/** A part of the side: what to know before it is published. */
export function SidePart({ title, children }: { readonly title: ReactNode; readonly children: ReactNode }) {
  return (
    <section className="pt-4">
      <h3 className="pb-0.5 text-xs font-semibold">{title}</h3>
      {children}
    </section>
  )
}
