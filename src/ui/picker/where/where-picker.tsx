'use client'

import { useState } from 'react'
import { type Where, type WhereTerm, whereTermKey } from '@/core/predicates/where'
import { butNot } from '@/ui/format/rule-phrases'
import type { Mark } from '../mark'
import { PickerPanel } from '../panel/picker-panel'
import { ChosenTerms } from '../chosen-terms'
import { ChoiceRow, Heading } from '../panel/picker-parts'
import { useWhereSource } from '../picker-sources'
import type { StripProps } from '../strips/strip'
import { useDone } from '../panel/use-done'
import { termMoves, withoutLast } from '../term-sets'
import { WhenLoaded } from '../panel/when-loaded'
import type { WhereChoice, WhereChoices } from './where-choices'

const MOVES = termMoves(whereTermKey)

type WherePickerProps = Omit<StripProps, 'initial'> & { readonly initial: Where }

/** Where a rule holds: channels, their groups, and regions with their countries. */
export function WherePicker(props: WherePickerProps) {
  const load = useWhereSource()
  return (
    <WhenLoaded load={load} waiting="Reading channels and regions …">
      {(choices) => <Chooser {...props} choices={choices} />}
    </WhenLoaded>
  )
}

function Chooser({
  label,
  initial,
  choices,
  onDone,
  onCancel,
  onChange,
}: WherePickerProps & { readonly choices: WhereChoices }) {
  const [where, setWhere] = useState(initial)
  const [typed, setTyped] = useState('')
  const { problem, setProblem, isBusy, done } = useDone(onDone)
  const all = [...choices.channels, ...choices.channelGroups, ...choices.regions]
  const choiceOf = (term: WhereTerm) => all.find((each) => whereTermKey(each.term) === whereTermKey(term))
  const nameOf = (term: WhereTerm) => choiceOf(term)?.name ?? 'something archived'
  const sentence = ({ include, exclude }: Where) =>
    butNot(include.length > 0 ? include.map(nameOf) : ['everywhere'], exclude.map(nameOf))

  function change(next: Where): void {
    setWhere(next)
    setProblem(null)
    onChange?.(sentence(next))
  }
  const take = (term: WhereTerm) => change(MOVES.takeIn(where, term))
  const leave = (term: WhereTerm) => change(MOVES.leaveOut(where, term))
  const markOf = (term: WhereTerm): Mark =>
    MOVES.has(where.exclude, term) ? 'out' : MOVES.has(where.include, term) ? 'chosen' : 'none'

  function keep(): void {
    const words = typed.trim().toLowerCase()
    if (words !== '') {
      const isLeftOut = /^(but\s+)?not\s+/.test(words)
      const word = words.replace(/^(but\s+)?not\s+/, '')
      const found =
        all.find(({ name, text }) => name.toLowerCase() === word || text.toLowerCase() === word) ??
        all.find(({ name }) => name.toLowerCase().includes(word))
      if (!found) return setProblem(`No results for “${typed.trim()}”.`)
      setTyped('')
      return isLeftOut ? leave(found.term) : take(found.term)
    }
    const text = (term: WhereTerm) => choiceOf(term)?.text ?? ''
    void done([...where.include.map(text), ...where.exclude.map((term) => `not ${text(term)}`)].join(', '))
  }
  const row = (choice: WhereChoice) => (
    <ChoiceRow
      key={whereTermKey(choice.term)}
      name={choice.name}
      mark={markOf(choice.term)}
      about={choice.about}
      onTake={() => take(choice.term)}
      onLeave={() => leave(choice.term)}
    />
  )
  return (
    <PickerPanel
      label={label}
      problem={problem}
      isBusy={isBusy}
      onDone={keep}
      onCancel={onCancel}
      onRemoveLast={() => change(withoutLast(where))}
      foot={
        <>
          <b>Holds {sentence(where)}.</b> <span className="text-soft">Nothing chosen is everywhere.</span>
        </>
      }
    >
      <ChosenTerms
        title="In"
        chosen={where}
        keyOf={whereTermKey}
        nameOf={nameOf}
        nothingOut="no place is left out"
        label="Channel or region"
        placeholder={
          where.include.length === 0 ? 'everywhere; type a channel or region' : 'channel or region'
        }
        typed={typed}
        onType={setTyped}
        onTake={take}
        onLeave={leave}
      />
      <div className="grid md:grid-cols-2 md:divide-x md:divide-base-300">
        <div data-column className="max-h-64 overflow-auto px-6 py-2">
          <Heading>Channels</Heading>
          {choices.channels.map(row)}
          {choices.channels.length === 0 && <p className="text-soft">The store has no channels.</p>}
          {choices.channelGroups.length > 0 && <Heading>Groups of channels</Heading>}
          {choices.channelGroups.map(row)}
        </div>
        <div data-column className="max-h-64 overflow-auto px-6 py-2">
          <Heading>Regions</Heading>
          {choices.regions.map(row)}
          {choices.regions.length === 0 && <p className="text-soft">The store has no regions.</p>}
        </div>
      </div>
    </PickerPanel>
  )
}
