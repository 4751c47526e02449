'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { serializeVantage } from '@/ui/frame/vantage-url'
import type { What } from '@/core/predicates/what'
import { useWhatSource } from '@/ui/picker/picker-sources'
import { PickerWord } from '@/ui/picker/picker-word'
import { Unrolled } from '@/ui/picker/panel/unrolled'
import { WhatPicker } from '@/ui/picker/what/what-picker'
import { IconArrowBackUp, IconArrowForwardUp } from '@tabler/icons-react'
import { usePathname, useRouter } from 'next/navigation'
import { type KeyboardEvent, useEffect, useState } from 'react'
import { type Measure, MEASURES } from './cells/board-measures'
import { type BoardFilter, COVERAGES, serializeBoardFilter } from './rows/board-url'
import type { BoardView } from './board-view'
import { ColumnsWord } from './columns/columns-word'
import type { useBoard } from './use-board'

interface BoardToolbarProps {
  readonly title: string
  readonly view: BoardView
  readonly filter: BoardFilter
  readonly measure: Measure
  readonly onMeasure: (measure: Measure) => void
  readonly board: ReturnType<typeof useBoard>
  readonly onChangeShown: () => void
}

/** How long typing must rest before the board follows it. */
const REST = 250

/** What the board shows, and of what. */
export function BoardToolbar({
  title,
  view,
  filter,
  measure,
  onMeasure,
  board,
  onChangeShown,
}: BoardToolbarProps) {
  const { vantage } = useFrame()
  const router = useRouter()
  const path = usePathname()
  const [text, setText] = useState(filter.text)
  /** What is being chosen to be shown, in words. */
  const [choosing, setChoosing] = useState<string | null>(null)
  const source = useWhatSource()

  function show(next: BoardFilter): void {
    const fields = new URLSearchParams([...serializeVantage(vantage), ...serializeBoardFilter(next)])
    router.replace(`${path}${fields.size > 0 ? `?${fields}` : ''}`, { scroll: false })
  }
  function onMeasureKey(event: KeyboardEvent<HTMLElement>): void {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
    if (step === undefined) return
    event.preventDefault()
    const at = MEASURES.findIndex(({ key }) => key === measure)
    const next = (at + step + MEASURES.length) % MEASURES.length
    onMeasure(MEASURES[next]?.key ?? measure)
    event.currentTarget.querySelectorAll('button')[next]?.focus()
  }
  useEffect(() => {
    if (text.trim() === filter.text) return
    const timer = setTimeout(() => show({ ...filter, text: text.trim() }), REST)
    return () => clearTimeout(timer)
  })

  return (
    <>
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 px-6 pt-3 pb-1">
        <h1 className="text-xl leading-7 font-semibold">{title}</h1>
        <span className="flex max-w-xs items-baseline gap-1.5 text-soft">
          Showing
          <PickerWord
            word={choosing ?? view.whatWords}
            label="Showing"
            isOpen={choosing !== null}
            disabled={false}
            onOpen={() => setChoosing(choosing === null ? view.whatWords : null)}
          />
        </span>
        <label className="flex items-baseline gap-1.5 text-soft">
          only
          <select
            aria-label="Only what needs looking at"
            className="cursor-pointer bg-transparent word text-base-content"
            value={filter.only ?? ''}
            onChange={(event) =>
              show({ ...filter, only: COVERAGES.find((each) => each === event.target.value) ?? null })
            }
          >
            <option value="">all of it</option>
            <option value="no-price">without a price</option>
            <option value="not-reached">reached by no list</option>
            <option value="below-cost">below cost</option>
            <option value="differing">where columns differ</option>
          </select>
        </label>
        <span className="flex items-baseline gap-1.5 text-soft">
          for{' '}
          <ColumnsWord
            columns={view.columns}
            chosen={filter.columns.length > 0}
            onChoose={(columns) => show({ ...filter, columns })}
          />
        </span>
        <input
          type="search"
          aria-label="Only names, codes or SKUs with these words"
          placeholder="named…"
          className="w-24 border-b border-base-300 bg-transparent px-1 py-0.5"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <div role="radiogroup" aria-label="Measure" className="flex gap-4" onKeyDown={onMeasureKey}>
          {MEASURES.map(({ key, name }) => (
            <button
              key={key}
              type="button"
              role="radio"
              aria-checked={measure === key}
              // One stop of the Tab key for all: the arrow keys go on from there.
              tabIndex={measure === key ? 0 : -1}
              className={`border-b-2 py-0.5 ${measure === key ? 'border-primary font-semibold' : 'border-transparent text-soft'}`}
              onClick={() => onMeasure(key)}
            >
              {name}
            </button>
          ))}
        </div>
        <span className="ml-auto flex items-center gap-3 self-center">
          {view.live && view.variantCount > 0 && (
            <button type="button" className="link-name" onClick={onChangeShown}>
              Change prices of what is shown
            </button>
          )}
          <button
            type="button"
            className="text-soft hover:text-base-content"
            onClick={() => board.setAllClosed(!board.anyClosed)}
          >
            {board.anyClosed ? 'Open all' : 'Close all'}
          </button>
          <UndoButton
            name="Undo"
            keys="Ctrl Z"
            icon={IconArrowBackUp}
            enabled={board.canUndo}
            onClick={() => void board.undoOrRedo('undo')}
          />
          <UndoButton
            name="Redo"
            keys="Ctrl Shift Z"
            icon={IconArrowForwardUp}
            enabled={board.canRedo}
            onClick={() => void board.undoOrRedo('redo')}
          />
        </span>
      </header>
      {choosing !== null && (
        <Unrolled>
          <WhatPicker
            label="Showing"
            initial={view.what}
            source={source}
            onChange={setChoosing}
            onCancel={() => setChoosing(null)}
            onDone={async (what, of) => {
              setChoosing(null)
              show({ ...filter, category: null, of: isEverything(what) ? '' : of })
              return null
            }}
          />
        </Unrolled>
      )}
      {view.whatProblem && (
        <p role="alert" className="px-6 pb-1 text-error">
          {view.whatProblem}{' '}
          <button
            type="button"
            className="link-name"
            onClick={() => show({ ...filter, category: null, of: '' })}
          >
            Show everything
          </button>
        </p>
      )}
    </>
  )
}

function isEverything({ include, exclude }: What): boolean {
  return exclude.length === 0 && include.some(({ kind }) => kind === 'everything')
}

interface UndoButtonProps {
  readonly name: string
  readonly keys: string
  readonly icon: typeof IconArrowBackUp
  readonly enabled: boolean
  readonly onClick: () => void
}

function UndoButton({ name, keys, icon: Icon, enabled, onClick }: UndoButtonProps) {
  return (
    <button
      type="button"
      aria-label={name}
      title={`${name} (${keys})`}
      disabled={!enabled}
      className="disabled:opacity-40"
      onClick={onClick}
    >
      <Icon size={18} stroke={1.75} aria-hidden />
    </button>
  )
}
