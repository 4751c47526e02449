'use client'

import { useState } from 'react'
import { butNot } from '@/ui/format/rule-phrases'
import { PickerPanel } from '../panel/picker-panel'
import { ChoiceRow, Heading, Key } from '../panel/picker-parts'
import { useRecordSource } from '../picker-sources'
import type { StripProps } from '../strips/strip'
import { useDone } from '../panel/use-done'
import { WhenLoaded } from '../panel/when-loaded'
import type { ChoiceSource, RecordChoice, RecordChoices } from './record-choices'

interface RecordPickerProps extends StripProps {
  readonly name: string
  readonly hint: string
  readonly from: ChoiceSource
  readonly many: boolean
}

/** Rows shown at once; typing narrows the rest. */
const MOST_SHOWN = 120

/** One or several records, or codes of a published list, chosen by name. */
export function RecordPicker(props: RecordPickerProps) {
  const { load } = useRecordSource()
  return (
    <WhenLoaded load={() => load(props.from)} waiting="Reading the list …">
      {(choices) => <Chooser {...props} loaded={choices} />}
    </WhenLoaded>
  )
}

function Chooser({
  label,
  name,
  hint,
  from,
  many,
  initial,
  loaded,
  onDone,
  onCancel,
  onChange,
}: RecordPickerProps & { readonly loaded: RecordChoices }) {
  const { make } = useRecordSource()
  const [choices, setChoices] = useState(loaded.choices)
  const [chosen, setChosen] = useState<readonly string[]>(() =>
    initial
      .split(',')
      .map((part) => part.trim())
      .filter(Boolean),
  )
  const [typed, setTyped] = useState('')
  const { problem, setProblem, isBusy, done } = useDone(onDone)
  const nameOf = (value: string) => choices.find((each) => each.value === value)?.name ?? value
  const words = typed.trim().toLowerCase()
  const found = choices.filter(
    (each) =>
      words === '' || each.name.toLowerCase().includes(words) || each.value.toLowerCase().startsWith(words),
  )
  const shown = [...found.filter(({ isOwn }) => isOwn), ...found.filter(({ isOwn }) => !isOwn)].slice(
    0,
    MOST_SHOWN,
  )
  const exact = found.find((each) => each.name.toLowerCase() === words || each.value.toLowerCase() === words)
  const canMake = loaded.makes !== null && words !== '' && !exact

  function change(next: readonly string[]): void {
    setChosen(next)
    setProblem(null)
    onChange?.(next.length === 0 ? 'nobody' : butNot(next.map(nameOf), []))
  }
  function take(value: string): void {
    if (!many) return change(chosen.includes(value) ? [] : [value])
    change(chosen.includes(value) ? chosen.filter((each) => each !== value) : [...chosen, value])
  }
  function move(value: string, by: number): void {
    const at = chosen.indexOf(value)
    const to = at + by
    if (to < 0 || to >= chosen.length) return
    const next = chosen.filter((each) => each !== value)
    change([...next.slice(0, to), value, ...next.slice(to)])
  }
  async function makeNew(): Promise<string | null> {
    const made = await make(from, typed.trim())
    if (!made.ok) {
      setProblem(made.problem)
      return null
    }
    setChoices([made.choice, ...choices])
    return made.choice.value
  }
  async function keep(): Promise<void> {
    if (words === '') return done(chosen.join(', '))
    // What is typed and found is meant.
    const meant = exact ?? (found.length > 0 ? shown[0] : undefined)
    const isWord = from === 'tag' || from === 'channel-group'
    const value = meant?.value ?? (isWord ? typed.trim() : canMake ? await makeNew() : null)
    if (value === null) return canMake ? undefined : setProblem(`No results for “${typed.trim()}”.`)
    setTyped('')
    if (!many) return done(value)
    if (!chosen.includes(value)) change([...chosen, value])
  }

  const row = (choice: RecordChoice) => (
    <ChoiceRow
      key={choice.value}
      name={choice.name}
      mark={chosen.includes(choice.value) ? 'chosen' : 'none'}
      about={choice.about}
      onTake={() => take(choice.value)}
      onLeave={() => change(chosen.filter((each) => each !== choice.value))}
    />
  )
  const own = shown.filter(({ isOwn }) => isOwn)
  const rest = shown.filter(({ isOwn }) => !isOwn)
  return (
    <PickerPanel
      label={label}

      problem={problem}
      isBusy={isBusy}
      keys={
        <>
          <Key>↓</Key> to the list · <Key>Space</Key> choose · <Key>⌫</Key> remove the last
        </>
      }
      onDone={() => void keep()}
      onCancel={onCancel}

      onRemoveLast={() => change(chosen.slice(0, -1))}
      foot={
        <>
          {chosen.length === 0 ? (
            <span className="text-soft">{hint || 'Nothing chosen.'}</span>
          ) : (
            <b>{butNot(chosen.map(nameOf), [])}</b>
          )}
        </>
      }
    >
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-base-300 px-6 py-2">
        <span className="w-28 shrink-0 text-soft">{name}</span>
        {chosen.map((value, at) => (
          <span key={value} className="border-b border-primary font-semibold">
            {many && chosen.length > 1 && from === 'price-list' && (
              <>
                <span className="font-normal text-soft">{at + 1} </span>
                <button
                  type="button"
                  aria-label={`Move ${nameOf(value)} before the one before`}
                  className="px-0.5 text-soft hover:text-base-content disabled:opacity-30"
                  disabled={at === 0}
                  onClick={() => move(value, -1)}
                >
                  ↑
                </button>
              </>
            )}
            {nameOf(value)}{' '}
            <button
              type="button"
              aria-label={`Remove ${nameOf(value)}`}
              className="px-0.5 text-soft hover:text-error"
              onClick={() => change(chosen.filter((each) => each !== value))}
            >
              ×
            </button>
          </span>
        ))}
        <input
          autoFocus
          aria-label={`Find: ${name}`}
          placeholder={loaded.makes ? `name, or the name of a new ${loaded.makes}` : 'type to find'}
          className="min-w-64 grow bg-transparent py-0.5 outline-none"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </div>
      <div data-column className="max-h-64 overflow-auto px-6 py-2">
        {canMake && (
          <button
            type="button"
            data-row
            className="block px-1 py-0.5 text-left text-secondary focus:bg-chosen"
            onClick={() => void keep()}
          >
            New {loaded.makes} “{typed.trim()}”
          </button>
        )}
        <div className="gap-x-8 sm:columns-2 lg:columns-3">
          {own.length > 0 && rest.length > 0 && <Heading>Used by this store</Heading>}
          {own.map(row)}
          {own.length > 0 && rest.length > 0 && <Heading>All others</Heading>}
          {rest.map(row)}
        </div>
        {shown.length === 0 && !canMake && <p className="text-soft">No results.</p>}
        {found.length > shown.length && (
          <p className="pt-1 text-soft">{found.length - shown.length} more. Type part of a name.</p>
        )}
      </div>
    </PickerPanel>
  )
}
