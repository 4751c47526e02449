import type { What, WhatTerm } from '@/core/predicates/what'
import { whatTermKey } from '@/core/predicates/what'
import { ChoiceRow, Heading } from '../panel/picker-parts'
import type { AttributeChoice, BranchChoice, FoundItem, WhatChoices, WhatMatched } from './what-choices'
import { attributeMark, branchMark, itemMark, plainMark } from './what-marks'

interface ColumnProps {
  readonly what: What
  readonly onTake: (term: WhatTerm) => void
  readonly onLeave: (term: WhatTerm) => void
}

/** The tree of categories, each with how many of its variants are in. */
export function Branches({
  branches,
  matched,
  opened,
  onToggle,
  what,
  onTake,
  onLeave,
}: ColumnProps & {
  readonly branches: readonly BranchChoice[]
  readonly matched: WhatMatched | null
  readonly opened: ReadonlySet<string>
  readonly onToggle: (id: string) => void
}) {
  const parents = new Set(branches.map(({ parent }) => parent))
  return (
    <>
      <Heading>Categories</Heading>
      {branches
        .filter((branch) => isVisible(branch, opened, branches))
        .map((branch) => {
          const mark = branchMark(branch, what, branches)
          const count = matched?.branches[branch.id] ?? 0
          return (
            <ChoiceRow
              key={branch.id}
              name={branch.name}
              depth={branch.depth}
              isInTree
              mark={mark === 'none' && count > 0 ? 'part' : mark}
              about={
                count > 0 && count < branch.variants ? `${count} of ${branch.variants}` : branch.variants
              }
              isOpen={parents.has(branch.id) ? opened.has(branch.id) : null}
              onOpen={() => onToggle(branch.id)}
              onTake={() => onTake(branch.term)}
              onLeave={() => onLeave(branch.term)}
            />
          )
        })}
    </>
  )
}

function isVisible(
  { parent }: BranchChoice,
  opened: ReadonlySet<string>,
  branches: readonly BranchChoice[],
): boolean {
  for (let id = parent; id !== null;) {
    if (!opened.has(id)) return false
    id = branches.find((each) => each.id === id)?.parent ?? null
  }
  return true
}

/** The attributes and options of what is matched, or of everything while nothing is. */
export function Attributes({
  attributes,
  matched,
  what,
  onTake,
  onLeave,
}: ColumnProps & { readonly attributes: readonly AttributeChoice[]; readonly matched: number }) {
  return (
    <>
      <Heading>{matched > 0 ? `Attributes and options of the ${matched}` : 'Attributes and options'}</Heading>
      {attributes.length === 0 && <p className="text-soft">None.</p>}
      {attributes.map(({ name, values }) => (
        <div key={name} role="group" aria-label={name} className="border-t border-base-300 py-1">
          <h3 className="px-1 font-semibold">{name}</h3>
          <div className="grid grid-cols-2 gap-x-2">
            {values.map((choice) => (
              <ChoiceRow
                key={choice.text}
                name={choice.value}
                mark={attributeMark(choice, what)}
                about={choice.matched > 0 ? choice.matched : choice.variants}
                onTake={() => onTake(choice.term)}
                onLeave={() => onLeave(choice.term)}
              />
            ))}
          </div>
        </div>
      ))}
    </>
  )
}

/** Products found by typing. */
export function FoundItems({
  typed,
  found,
  what,
  onTake,
  onLeave,
}: ColumnProps & { readonly typed: string; readonly found: readonly FoundItem[] }) {
  if (typed.trim() === '') return null
  return (
    <>
      <Heading>Single products</Heading>
      {found.length === 0 && <p className="text-soft">No results.</p>}
      {found.map((item) => (
        <ChoiceRow
          key={whatTermKey(item.term)}
          name={item.name}
          mark={itemMark(item, what)}
          about={item.about}
          onTake={() => onTake(item.term)}
          onLeave={() => onLeave(item.term)}
        />
      ))}
    </>
  )
}

/** Price families and extras. */
export function OtherTerms({
  others,
  what,
  onTake,
  onLeave,
}: ColumnProps & { readonly others: WhatChoices['others'] }) {
  return [...new Set(others.map(({ kind }) => kind))].map((kind) => (
    <div key={kind}>
      <Heading>{kind}</Heading>
      {others
        .filter((each) => each.kind === kind)
        .map((choice) => (
          <ChoiceRow
            key={choice.text}
            name={choice.name}
            mark={plainMark(choice.term, what)}
            about=""
            onTake={() => onTake(choice.term)}
            onLeave={() => onLeave(choice.term)}
          />
        ))}
    </div>
  ))
}
