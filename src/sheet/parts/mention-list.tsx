import type { Mention } from '../effect/mentions'
import { SideList, SideRow } from './side-parts'

const MOST_SHOWN = 12

/** The rules and lists that name a record, beside its sheet. */
export function MentionList({
  title,
  mentions,
  none,
}: {
  readonly title: string
  readonly mentions: readonly Mention[]
  readonly none: string
}) {
  return (
    <SideList title={title}>
      {mentions.slice(0, MOST_SHOWN).map(({ name, href, about }, at) => (
        <SideRow key={`${href} ${at}`} name={name} href={href} about={about} />
      ))}
      {mentions.length === 0 && <p className="text-soft">{none}</p>}
      {mentions.length > MOST_SHOWN && (
        <p className="pt-1 text-soft">and {mentions.length - MOST_SHOWN} more</p>
      )}
    </SideList>
  )
}
