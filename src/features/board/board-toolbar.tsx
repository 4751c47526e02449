'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { serializeVantage } from '@/ui/frame/vantage-url'
import { IconArrowBackUp, IconArrowForwardUp } from '@tabler/icons-react'
import { usePathname, useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import { type Measure, MEASURES } from './board-measures'
import { type BoardFilter, COVERAGES, serializeBoardFilter } from './board-url'
import type { BoardView } from './board-view'
import { ColumnsWord } from './columns-word'
import type { useBoard } from './use-board'

interface BoardToolbarProps {
  readonly title: string
  readonly view: BoardView
  readonly filter: BoardFilter
  readonly measure: Measure
  readonly onMeasure: (measure: Measure) => void
  readonly board: ReturnType<typeof useBoard>
}

/** How long typing must rest before the board follows it. */
const REST = 250

/** What the board shows, and of what. */
export function BoardToolbar({ title, view, filter, measure, onMeasure, board }: BoardToolbarProps) {
  const { vantage } = useFrame()
  const router = useRouter()
  const path = usePathname()
  const [text, setText] = useState(filter.text)

  function show(next: BoardFilter): void {
    const fields = new URLSearchParams([...serializeVantage(vantage), ...serializeBoardFilter(next)])
    router.replace(`${path}${fields.size > 0 ? `?${fields}` : ''}`, { scroll: false })
  }
  useEffect(() => {
    if (text.trim() === filter.text) return
    const timer = setTimeout(() => show({ ...filter, text: text.trim() }), REST)
    return () => clearTimeout(timer)
  })

  return (
    <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 px-6 pt-3 pb-1">
      <h1 className="text-xl leading-7 font-semibold">{title}</h1>
      <label className="flex items-baseline gap-1.5 text-soft">
        Showing
        <select
          className="max-w-44 cursor-pointer truncate bg-transparent word text-base-content"
          value={filter.category ?? ''}
          onChange={(event) => show({ ...filter, category: event.target.value || null })}
        >
          <option value="">everything</option>
          {view.categories.map(({ code, name, depth }) => (
            <option key={code} value={code}>
              {'\u2003'.repeat(depth) + name}
            </option>
          ))}
        </select>
      </label>
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
      <div role="radiogroup" aria-label="Measure" className="flex gap-4">
        {MEASURES.map(({ key, name }) => (
          <button
            key={key}
            type="button"
            role="radio"
            aria-checked={measure === key}
            className={`border-b-2 py-0.5 ${measure === key ? 'border-primary font-semibold' : 'border-transparent text-soft'}`}
            onClick={() => onMeasure(key)}
          >
            {name}
          </button>
        ))}
      </div>
      <span className="ml-auto flex items-center gap-3 self-center">
        <button
          type="button"
          className="text-soft hover:text-base-content"
          onClick={() => board.setAllClosed(!board.anyClosed)}
        >
          {board.anyClosed ? 'Open all' : 'Close all'}
        </button>
        <TakeBackButton
          name="Undo"
          keys="Ctrl Z"
          icon={IconArrowBackUp}
          enabled={board.canUndo}
          onClick={() => void board.takeBack('undo')}
        />
        <TakeBackButton
          name="Redo"
          keys="Ctrl Shift Z"
          icon={IconArrowForwardUp}
          enabled={board.canRedo}
          onClick={() => void board.takeBack('redo')}
        />
      </span>
    </header>
  )
}

interface TakeBackButtonProps {
  readonly name: string
  readonly keys: string
  readonly icon: typeof IconArrowBackUp
  readonly enabled: boolean
  readonly onClick: () => void
}

function TakeBackButton({ name, keys, icon: Icon, enabled, onClick }: TakeBackButtonProps) {
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
