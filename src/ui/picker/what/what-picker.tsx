'use client'

import { type What, type WhatTerm, whatTermKey } from '@/core/predicates/what'
import { useState } from 'react'
import { WhenLoaded } from '../when-loaded'
import { NO_ANSWER } from '@/ui/format/no-answer'
import { butNot } from '@/ui/format/rule-phrases'
import { someOf } from '@/ui/format/some-of'
import { PickerPanel } from '../picker-panel'
import { ChosenTerms } from '../chosen-terms'
import { ChoiceRow, Heading } from '../picker-parts'
import type { BranchChoice, WhatChoice, WhatChoices } from './what-choices'
import { countText, Matches } from './what-matches'
import { useFound, useMatched, type WhatSource } from './what-source'
import { branchMark, itemMark, leaveOutWhat, plainMark, takeInWhat } from './what-marks'
import { withoutLast } from '../term-sets'
import { useDone } from '../use-done'

interface WhatPickerProps {
  readonly label: string
  readonly initial: What
  readonly source: WhatSource
  /** Keeps what was chosen, as terms and as it is typed; resolves to what is wrong, or `null`. */
  readonly onDone: (what: What, text: string) => Promise<string | null>
  readonly onCancel: () => void
  /** Told with every change, so that the sentence follows. */
  readonly onChange?: (words: string) => void
}

const EVERYTHING: WhatTerm = { kind: 'everything' }

/** What a rule is for: unrolled across the sheet, with what it matches beside it and at its foot. */
export function WhatPicker(props: WhatPickerProps) {
  const { source, initial } = props
  return (
    <WhenLoaded load={() => source.load(initial)} waiting="Reading the catalogue …">
      {(choices) => <Chooser {...props} choices={choices} />}
    </WhenLoaded>
  )
}

function Chooser({
  label,
  initial,
  source,
  choices,
  onDone,
  onCancel,
  onChange,
}: WhatPickerProps & { readonly choices: WhatChoices }) {
  const [what, setWhat] = useState(initial)
  const [typed, setTyped] = useState('')
  const { problem, setProblem, isBusy, done } = useDone(onDone)
  const [opened, setOpened] = useState<ReadonlySet<string>>(() => openAt(initial, choices.branches))
  const [met, setMet] = useState<ReadonlyMap<string, WhatChoice>>(() => knownOf(choices))
  const found = useFound(source, typed)
  const matched = useMatched(source, what)
  const known = (term: WhatTerm) =>
    met.get(whatTermKey(term)) ?? found.find((each) => isSame(each.term, term))
  const nameOf = (term: WhatTerm) => (term.kind === 'everything' ? 'everything' : (known(term)?.name ?? ''))

  function change(next: What, more: readonly WhatChoice[] = []): void {
    const all = new Map([
      ...met,
      ...[...found, ...more].map((each) => [whatTermKey(each.term), each] as const),
    ])
    setMet(all)
    setWhat(next)
    setProblem(null)
    onChange?.(
      sentenceOf(next, (term) =>
        term.kind === 'everything' ? 'everything' : (all.get(whatTermKey(term))?.name ?? ''),
      ),
    )
  }

  async function keep(): Promise<void> {
    if (typed.trim() !== '') {
      const read = await source.read(typed).catch(() => ({ ok: false, problem: NO_ANSWER }) as const)
      if (!read.ok) {
        // A part of a name that means one thing is enough.
        const [only] = found
        if (found.length !== 1 || !only) return setProblem(read.problem)
        setTyped('')
        return change(takeInWhat(what, only.term))
      }
      setTyped('')
      const isIn = (terms: readonly WhatTerm[], term: WhatTerm) => terms.some((each) => isSame(each, term))
      const taken = read.what.include.reduce(
        (next, term) => (isIn(next.include, term) ? next : takeInWhat(next, term)),
        what,
      )
      return change(
        read.what.exclude.reduce(
          (next, term) => (isIn(next.exclude, term) ? next : leaveOutWhat(next, term)),
          taken,
        ),
        read.named,
      )
    }
    if (what.include.length === 0)
      return setProblem('Choose at least one: a category, a product or everything.')
    const text = (term: WhatTerm) => (term.kind === 'everything' ? 'everything' : (known(term)?.text ?? ''))
    await done(
      what,
      [...what.include.map(text), ...what.exclude.map((term) => `not ${text(term)}`)].join(', '),
    )
  }

  const take = (term: WhatTerm) => change(takeInWhat(what, term))
  const leave = (term: WhatTerm) => change(leaveOutWhat(what, term))
  const toggle = (id: string) => {
    const next = new Set(opened)
    if (!next.delete(id)) next.add(id)
    setOpened(next)
  }
  return (
    <PickerPanel
      label={label}
      problem={problem}
      isBusy={isBusy}
      onDone={() => void keep()}
      onCancel={onCancel}
      onRemoveLast={() => change(withoutLast(what))}
      foot={
        <>
          <b>{matched ? countText(matched) : 'Counting …'}</b>
          {matched &&
            matched.rows.length > 0 &&
            `: ${someOf(
              matched.rows.map(({ name }) => name),
              matched.products,
            )}`}
        </>
      }
    >
      <ChosenTerms
        title="What"
        chosen={what}
        keyOf={whatTermKey}
        nameOf={nameOf}
        nothingOut="nothing is left out"
        label="Product, SKU, category or a rule such as Timber=Pine"
        placeholder="product, SKU, category, or typed: Timber=Pine, base 5–20, not Frames"
        typed={typed}
        onType={setTyped}
        onTake={take}
        onLeave={leave}
        beside={
          !what.include.some(({ kind }) => kind === 'everything') && (
            <button type="button" className="link-name" onClick={() => take(EVERYTHING)}>
              everything
            </button>
          )
        }
        notes={matched?.notes.map((note) => (
          <span key={note} className="bg-warning px-2 text-warning-content">
            {note}
          </span>
        ))}
      />
      <div className="grid max-md:max-h-[24rem] max-md:overflow-auto md:grid-cols-[minmax(0,1.2fr)_minmax(0,0.9fr)_minmax(0,0.9fr)_minmax(0,1.2fr)] md:divide-x md:divide-base-300">
        <div data-column className="px-6 py-2 md:max-h-[24rem] md:overflow-auto">
          <Heading>Categories</Heading>
          {choices.branches
            .filter((branch) => isVisible(branch, opened, choices.branches))
            .map((branch) => (
              <ChoiceRow
                key={branch.id}
                name={branch.name}
                depth={branch.depth}
                isInTree
                mark={branchMark(branch, what, choices.branches)}
                about={branch.variants}
                isOpen={
                  choices.branches.some(({ parent }) => parent === branch.id) ? opened.has(branch.id) : null
                }
                onOpen={() => toggle(branch.id)}
                onTake={() => take(branch.term)}
                onLeave={() => leave(branch.term)}
              />
            ))}
        </div>
        <div data-column className="px-4 py-2 md:max-h-[24rem] md:overflow-auto">
          {choices.attributes.length === 0 && (
            <p className="text-soft">No product has options or attributes.</p>
          )}
          {choices.attributes.map(({ name, values }) => (
            <div key={name}>
              <Heading>{name}</Heading>
              {values.map((choice) => (
                <ChoiceRow
                  key={choice.text}
                  name={choice.name}
                  mark={plainMark(choice.term, what)}
                  about={choice.variants}
                  onTake={() => take(choice.term)}
                  onLeave={() => leave(choice.term)}
                />
              ))}
            </div>
          ))}
        </div>
        <div data-column className="px-4 py-2 md:max-h-[24rem] md:overflow-auto">
          <Heading>Single products</Heading>
          {typed.trim() === '' && <p className="text-soft">Type part of a name or SKU above.</p>}
          {typed.trim() !== '' && found.length === 0 && <p className="text-soft">No results.</p>}
          {found.map((item) => (
            <ChoiceRow
              key={whatTermKey(item.term)}
              name={item.name}
              mark={itemMark(item, what)}
              about={item.about}
              onTake={() => take(item.term)}
              onLeave={() => leave(item.term)}
            />
          ))}
          {[...new Set(choices.others.map(({ kind }) => kind))].map((kind) => (
            <div key={kind}>
              <Heading>{kind}</Heading>
              {choices.others
                .filter((each) => each.kind === kind)
                .map((choice) => (
                  <ChoiceRow
                    key={choice.text}
                    name={choice.name}
                    mark={plainMark(choice.term, what)}
                    about=""
                    onTake={() => take(choice.term)}
                    onLeave={() => leave(choice.term)}
                  />
                ))}
            </div>
          ))}
        </div>
        <Matches matched={matched} />
      </div>
    </PickerPanel>
  )
}

function isSame(left: WhatTerm, right: WhatTerm): boolean {
  return whatTermKey(left) === whatTermKey(right)
}

function sentenceOf({ include, exclude }: What, nameOf: (term: WhatTerm) => string): string {
  return include.length === 0 ? 'nothing yet' : butNot(include.map(nameOf), exclude.map(nameOf))
}

function knownOf({ branches, attributes, others, named }: WhatChoices): ReadonlyMap<string, WhatChoice> {
  const all: readonly WhatChoice[] = [
    ...named,
    ...branches,
    ...attributes.flatMap(({ values }) => values),
    ...others,
  ]
  return new Map(all.map((choice) => [whatTermKey(choice.term), choice]))
}

/** The top of the tree is shown, and whatever leads to what is chosen. */
function openAt({ include, exclude }: What, branches: readonly BranchChoice[]): ReadonlySet<string> {
  const open = new Set<string>()
  for (const term of [...include, ...exclude]) {
    if (term.kind !== 'category') continue
    for (let id = branches.find((each) => each.id === term.category)?.parent ?? null; id !== null;) {
      open.add(id)
      id = branches.find((each) => each.id === id)?.parent ?? null
    }
  }
  return open
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
