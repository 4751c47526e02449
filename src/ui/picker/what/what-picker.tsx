'use client'

import { type What, type WhatTerm, whatTermKey } from '@/core/predicates/what'
import { useState } from 'react'
import { WhenLoaded } from '../panel/when-loaded'
import { NO_ANSWER } from '@/ui/format/no-answer'
import { butNot } from '@/ui/format/rule-phrases'
import { someOf } from '@/ui/format/some-of'
import { PickerPanel } from '../panel/picker-panel'
import { ChosenTerms } from '../chosen-terms'
import type { BranchChoice, WhatChoice, WhatChoices } from './what-choices'
import { countText, Matches } from './what-matches'
import { useFound, useMatched, type WhatSource } from './what-source'
import { leaveOutWhat, takeInWhat } from './what-marks'
import { Attributes, Branches, FoundItems, OtherTerms } from './what-columns'
import { Margins, PriceNarrowing, StockNarrowing } from './narrowing'
import { atHand, knownAtFirst, nameOfTerm, textOfTerm, withKnown } from './known-terms'
import { withoutLast } from '../term-sets'
import { useDone } from '../panel/use-done'

interface WhatPickerProps {
  readonly label: string
  readonly initial: What
  readonly source: WhatSource
  /** Keeps what was chosen, as terms and as it is typed; resolves to what is wrong, or `null`. */
  readonly onDone: (what: What, text: string) => Promise<string | null>
  readonly onCancel: () => void
  /** Called with every change, so that the sentence follows. */
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
  const [met, setMet] = useState(() => knownAtFirst(choices))
  const found = useFound(source, typed)
  const matched = useMatched(source, what)
  const known = withKnown(met, atHand(found, matched))

  function change(next: What, more: readonly WhatChoice[] = []): void {
    const all = withKnown(known, more)
    setMet(all)
    setWhat(next)
    setProblem(null)
    onChange?.(sentenceOf(next, (term) => nameOfTerm(all, term)))
  }

  /** Takes in what is typed. What nothing is typed for, or ended, is kept: though Enter before is still being read. */
  async function keep(isEnd: boolean): Promise<void> {
    if (typed.trim() === '') return finish(what, known)
    const read = await source.read(typed).catch(() => ({ ok: false, problem: NO_ANSWER }) as const)
    // A part of a name that means one thing is enough.
    const [only] = found
    if (!read.ok && (found.length !== 1 || !only)) return setProblem(read.problem)
    const next = read.ok ? withTyped(what, read.what) : takeInWhat(what, (only as WhatChoice).term)
    const more = read.ok ? read.named : []
    setTyped('')
    change(next, more)
    if (isEnd) await finish(next, withKnown(known, more))
  }

  async function finish(chosen: What, names: typeof known): Promise<void> {
    if (chosen.include.length === 0)
      return setProblem('Choose at least one: a category, a product or everything.')
    const text = (term: WhatTerm) => textOfTerm(names, term)
    await done(
      chosen,
      [...chosen.include.map(text), ...chosen.exclude.map((term) => `not ${text(term)}`)].join(', '),
    )
  }

  const take = (term: WhatTerm) => change(takeInWhat(what, term))
  const leave = (term: WhatTerm) => change(leaveOutWhat(what, term))
  const moves = { what, onTake: take, onLeave: leave }
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
      onDone={() => void keep(false)}
      onEnd={() => void keep(true)}
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
        nameOf={(term) => nameOfTerm(known, term)}
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
      <div className="what-columns">
        <div data-column>
          <Branches
            {...moves}
            branches={choices.branches}
            matched={matched}
            opened={opened}
            onToggle={toggle}
          />
        </div>
        <div data-column>
          {matched && <Attributes {...moves} attributes={matched.attributes} matched={matched.variants} />}
        </div>
        <div data-column>
          <FoundItems {...moves} typed={typed} found={found} />
          {matched && (
            <>
              <PriceNarrowing what={what} matched={matched} onChange={change} />
              <Margins margins={matched.margins} />
              <StockNarrowing what={what} matched={matched} onChange={change} />
            </>
          )}
          <OtherTerms {...moves} others={choices.others} />
        </div>
        <div>
          <Matches matched={matched} />
        </div>
      </div>
    </PickerPanel>
  )
}

/** With what was typed taken in and left out, as far as it is not already. */
function withTyped(what: What, { include, exclude }: What): What {
  const isIn = (terms: readonly WhatTerm[], term: WhatTerm) => terms.some((each) => isSame(each, term))
  const taken = include.reduce(
    (next, term) => (isIn(next.include, term) ? next : takeInWhat(next, term)),
    what,
  )
  return exclude.reduce((next, term) => (isIn(next.exclude, term) ? next : leaveOutWhat(next, term)), taken)
}

function isSame(left: WhatTerm, right: WhatTerm): boolean {
  return whatTermKey(left) === whatTermKey(right)
}

function sentenceOf({ include, exclude }: What, nameOf: (term: WhatTerm) => string): string {
  return include.length === 0 ? 'nothing yet' : butNot(include.map(nameOf), exclude.map(nameOf))
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
