'use client'

import { childrenOf, isWithin, movedTo, type TreeStep } from '@/core/catalogue/move-category'
import { useReady } from '@/ui/frame/use-ready'
import { recordHref } from '@/ui/frame/record-href'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useFrame } from '@/ui/frame/frame-context'
import { useRouter } from 'next/navigation'
import { type KeyboardEvent, type ReactNode, useEffect, useMemo, useRef, useState } from 'react'
import { Collection, type Key, Tree, TreeItem, TreeItemContent, useDragAndDrop } from 'react-aria-components'
import type { CategoryTreeView, TreeCategory } from './category-tree-view'
import { RenameBranch } from './rename-branch'
import { TREE_COLUMNS, TreeRow } from './tree-row'
import { useMove } from './use-move'

interface CategoryTreeProps {
  readonly view: CategoryTreeView
  readonly tabs: ReactNode
  /** What the move in the address would change. */
  readonly effect: ReactNode
  /** Lines of price lists the move takes it from under. */
  readonly lines: number
}

/** A row of the tree: a branch, or the place one is being moved from. */
interface Node {
  readonly id: string
  readonly category: TreeCategory
  readonly isLeft: boolean
  readonly children: readonly Node[]
}

const STEPS: Readonly<Record<string, TreeStep>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'out',
  ArrowRight: 'in',
}
/**
 * In milliseconds. For 50 after a drop the tree would select whatever rows are new to it, and do so again and again
 * where the selection is kept elsewhere.
 */
const AFTER_DROP = 60
/** Before the id of a branch, the place it is being moved from. */
const LEFT = 'left '

/** The catalogue's tree, with what hangs on each branch; branches are moved by mouse and by keys. */
export function CategoryTree({ view, tabs, effect, lines }: CategoryTreeProps) {
  const { categories, live } = view
  const { href } = useFrame()
  const router = useRouter()
  const isReady = useReady()
  const byId = useMemo(() => new Map(categories.map((each) => [each.id, each])), [categories])
  const { move, problem, isBusy, to, putBack, keepPrices, step, make } = useMove(view, byId)
  const [at, setAt] = useState<string | null>(move?.id ?? view.at)
  const [isRenaming, setRenaming] = useState(false)
  const [opened, setOpened] = useState<ReadonlySet<Key>>(() => openAtFirst(view))
  const nodes = useMemo(() => nodesOf(byId, move), [byId, move])
  const current = at === null ? undefined : byId.get(at)

  const tree = useRef<HTMLDivElement>(null)
  const beginsAt = view.move?.id ?? view.at
  useEffect(() => {
    if (beginsAt !== null)
      tree.current
        ?.querySelector(`[data-key=${JSON.stringify(beginsAt)}]`)
        ?.scrollIntoView({ block: 'center' })
  }, [beginsAt])

  const { dragAndDropHooks } = useDragAndDrop<Node>({
    isDisabled: !live,
    getItems: (keys) => [...keys].map((key) => ({ 'text/plain': byId.get(String(key))?.name ?? '' })),
    getDropOperation: (target) =>
      target.type === 'item' && String(target.key).startsWith(LEFT) ? 'cancel' : 'move',
    onMove: ({ keys, target }) => {
      const [id] = [...keys].map(String)
      const beside = byId.get(String(target.key))
      if (id === undefined || !beside || isWithin(byId, beside.id, id)) return
      setTimeout(() => drop(id, beside, target.dropPosition), AFTER_DROP)
    },
  })

  function drop(id: string, beside: TreeCategory, position: 'before' | 'after' | 'on'): void {
    setAt(id)
    if (position === 'on') {
      setOpened(new Set([...opened, beside.id]))
      return to(id, { parent: beside.id, before: null })
    }
    const siblings = childrenOf(byId, beside.parent).filter((each) => each.id !== id)
    const stands = siblings.findIndex((each) => each.id === beside.id)
    const before = siblings[position === 'before' ? stands : stands + 1]
    to(id, { parent: beside.parent, before: before?.id ?? null })
  }

  function onKeyDown(event: KeyboardEvent): void {
    if (event.target instanceof HTMLInputElement) return
    const way = event.altKey ? STEPS[event.key] : undefined
    if (way && current && live) {
      const place = step(current.id, way)
      if (place?.parent) setOpened(new Set([...opened, place.parent]))
    } else if (event.key === 'Enter' && move) make()
    else if (event.key === 'Escape' && move) putBack()
    else if (event.key === 'F2' && current && live) setRenaming(true)
    else return
    event.preventDefault()
    event.stopPropagation()
  }

  const render = (node: Node) => (
    <TreeItem
      id={node.id}
      textValue={node.isLeft ? `${node.category.name}, where it stands` : node.category.name}
      onAction={() => router.push(href(recordHref('categories', node.category.code)))}
      className="cursor-default outline-none data-[drop-target]:bg-chosen data-[focus-visible]:outline-2 data-[focus-visible]:-outline-offset-2 data-[focus-visible]:outline-secondary data-[selected]:bg-lifted"
    >
      <TreeItemContent>
        {({ level, hasChildItems }) => (
          <TreeRow
            category={node.category}
            level={level}
            hasChildren={hasChildItems}
            isLeft={node.isLeft}
            isMoving={!node.isLeft && move?.id === node.category.id}
            mayMove={live}
          />
        )}
      </TreeItemContent>
      <Collection items={node.children}>{render}</Collection>
    </TreeItem>
  )

  return (
    <div className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
      <section
        className="flex min-w-0 flex-1 flex-col px-6 pt-3"
        aria-label="Categories"
        data-ready={isReady && !isBusy}
      >
        <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-2">
          <h1 className="text-xl leading-7 font-semibold">Categories</h1>
          {tabs}
          {live && (
            <VantageLink href="/categories/new" className="ml-auto link-name">
              New category
            </VantageLink>
          )}
          <p className="w-full text-soft">
            {categories.length} categories, {view.products} products. A rule for a category reaches everything
            below it, until a nearer one says otherwise.
          </p>
        </header>
        {problem && (
          <p role="alert" className="pb-2 text-error">
            {problem}
          </p>
        )}
        <div className={`${TREE_COLUMNS} border-b border-base-content pb-1 font-semibold`} aria-hidden>
          <span>Category</span>
          <span className="text-right">Variants</span>
          <span>Price lists</span>
          <span>Limits</span>
          <span>Access</span>
          <span>Adjustments</span>
          <span>Tax class</span>
        </div>
        <div className="min-h-0 flex-1 overflow-auto" onKeyDownCapture={onKeyDown}>
          <Tree
            ref={tree}
            aria-label="Categories"
            items={nodes}
            selectionMode="single"
            selectionBehavior="replace"
            disallowEmptySelection
            selectedKeys={at === null ? [] : [at]}
            onSelectionChange={(keys) => {
              const [key] = keys === 'all' ? [] : [...keys]
              if (key === undefined || key === at || !byId.has(String(key))) return
              setAt(String(key))
              setRenaming(false)
            }}
            disabledKeys={move ? [LEFT + move.id] : []}
            expandedKeys={opened}
            onExpandedChange={setOpened}
            dragAndDropHooks={dragAndDropHooks}
            renderEmptyState={() => (
              <p className="py-4 text-soft">No categories yet. A name is enough for the first one.</p>
            )}
          >
            {render}
          </Tree>
        </div>
        <footer className="flex flex-wrap items-baseline gap-x-5 gap-y-1 border-t border-base-300 py-2">
          {current && isRenaming ? (
            <RenameBranch category={current} onEnd={() => setRenaming(false)} />
          ) : (
            current && (
              <>
                <b>{current.name}</b>
                <span className="text-soft">
                  {current.filed === 0
                    ? 'no product is filed in it directly'
                    : `${current.filed} ${current.filed === 1 ? 'product is' : 'products are'} filed in it directly`}
                </span>
                <VantageLink href={recordHref('categories', current.code)} className="link-name">
                  Open it
                </VantageLink>
                <VantageLink href={`/board?in=${encodeURIComponent(current.code)}`} className="link-name">
                  Its prices on the board
                </VantageLink>
              </>
            )
          )}
          {live && !isRenaming && (
            <span className="ml-auto text-xs text-soft">
              <kbd className="kbd kbd-xs">Alt</kbd> with <kbd className="kbd kbd-xs">↑</kbd>{' '}
              <kbd className="kbd kbd-xs">↓</kbd> <kbd className="kbd kbd-xs">←</kbd>{' '}
              <kbd className="kbd kbd-xs">→</kbd> move · <kbd className="kbd kbd-xs">F2</kbd> rename ·{' '}
              <kbd className="kbd kbd-xs">Enter</kbd> open
            </span>
          )}
        </footer>
      </section>
      <aside
        aria-label={move ? 'What the move would change' : 'About the tree'}
        className="shrink-0 border-base-300 bg-lifted px-4 py-4 max-lg:border-t lg:w-[18rem] lg:overflow-auto lg:border-l"
      >
        {move ? (
          <>
            <div aria-busy={isBusy} className={isBusy ? 'opacity-60' : ''}>
              {effect ?? <p className="text-soft">Working out what it would change …</p>}
            </div>
            {(lines > 0 || move.keepsPrices) && (
              <label className="mt-5 flex gap-2 bg-base-200 p-2">
                <input
                  type="checkbox"
                  className="checkbox mt-0.5 checkbox-xs checkbox-primary"
                  checked={move.keepsPrices}
                  onChange={(event) => keepPrices(event.target.checked)}
                />
                <span>
                  Keep today’s prices: put it into the {lines} {lines === 1 ? 'line' : 'lines'} of price lists
                  it leaves
                </span>
              </label>
            )}
            <p className="sticky -bottom-4 -mx-4 mt-4 flex justify-end gap-2 border-t border-base-300 bg-lifted px-4 py-3">
              <button type="button" className="btn btn-sm" onClick={putBack}>
                Put back <kbd className="kbd kbd-xs">Esc</kbd>
              </button>
              <button type="button" className="btn btn-primary btn-sm" disabled={isBusy} onClick={make}>
                Move <kbd className="kbd kbd-xs text-base-content">Enter</kbd>
              </button>
            </p>
          </>
        ) : (
          <AboutTree view={view} />
        )}
      </aside>
    </div>
  )
}

const MOST_NAMED = 10

function AboutTree({ view: { categories, inTwo, live } }: { readonly view: CategoryTreeView }) {
  const empty = categories.filter(({ variants, archived }) => variants === 0 && !archived)
  return (
    <>
      {live && (
        <>
          <h2 className="font-semibold">Moving a category</h2>
          <p className="pb-4 text-soft">
            Drag it by its handle, or choose it and hold Alt with an arrow. What its prices would come to
            there is shown here before anything is saved.
          </p>
        </>
      )}
      {inTwo.length > 0 && (
        <>
          <h2 className="font-semibold">
            {inTwo.length} {inTwo.length === 1 ? 'product' : 'products'} in two categories or more
          </h2>
          <p className="pb-1 text-soft">The rules of all of them reach these.</p>
          <ul className="pb-4">
            {inTwo.slice(0, MOST_NAMED).map(({ name, href }) => (
              <li key={href}>
                <VantageLink href={href} className="link-name">
                  {name}
                </VantageLink>
              </li>
            ))}
            {inTwo.length > MOST_NAMED && <li className="text-soft">and {inTwo.length - MOST_NAMED} more</li>}
          </ul>
        </>
      )}
      {empty.length > 0 && (
        <>
          <h2 className="font-semibold">Nothing to sell in</h2>
          <p className="text-soft">{empty.map(({ name }) => name).join(', ')}</p>
        </>
      )}
    </>
  )
}

/** The tree with a move as if it were made, and a mark where the branch stood. */
function nodesOf(byId: ReadonlyMap<string, TreeCategory>, move: CategoryTreeView['move']): readonly Node[] {
  const placed = new Map(byId)
  if (move) for (const each of movedTo(byId, move.id, move.place)) placed.set(each.id, each)
  const left = move ? byId.get(move.id) : undefined
  const below = new Map<string | null, TreeCategory[]>()
  for (const each of placed.values()) {
    const known = below.get(each.parent)
    if (known) known.push(each)
    else below.set(each.parent, [each])
  }
  const nodes = (parent: string | null): readonly Node[] => {
    const children = (below.get(parent) ?? [])
      .sort((one, other) => one.position - other.position)
      .map((category): Node => ({ id: category.id, category, isLeft: false, children: nodes(category.id) }))
    if (!left || left.parent !== parent) return children
    const stood = childrenOf(byId, parent).findIndex(({ id }) => id === left.id)
    const mark: Node = { id: LEFT + left.id, category: left, isLeft: true, children: [] }
    return [...children.slice(0, stood), mark, ...children.slice(stood)]
  }
  return nodes(null)
}

/** So many categories are opened to their second level; more are easier looked through from the top. */
const MOST_OPENED = 100

/** The top, and whatever leads to the branch it begins at. */
function openAtFirst({ categories, move, at }: CategoryTreeView): ReadonlySet<Key> {
  const byId = new Map(categories.map((each) => [each.id, each]))
  const top = categories.length > MOST_OPENED ? [] : categories.filter(({ parent }) => parent === null)
  const open = new Set<Key>(top.map(({ id }) => id))
  const parentOf = (id: string) => byId.get(id)?.parent ?? null
  // Of a move both ends: where it would stand, and where it stands.
  const ends = move ? [move.place.parent, parentOf(move.id)] : [parentOf(at ?? '')]
  for (const end of ends) for (let id = end; id !== null; id = parentOf(id)) open.add(id)
  return open
}
