'use client'

import { useFrame, useFresh } from '@/ui/frame/frame-context'
import { HistorySection } from '@/ui/frame/history-section'
import { useReady } from '@/ui/frame/use-ready'
import { VantageLink } from '@/ui/frame/vantage-link'
import { PickerWord } from '@/ui/picker/picker-word'
import { Unrolled } from '@/ui/picker/panel/unrolled'
import { useRouter } from 'next/navigation'
import { type ReactNode, useState } from 'react'
import { FieldEditProvider } from './field-edit'
import { FieldEditor } from './field-editor'
import { SaveBar } from './save/save-bar'
import { archiveRecord, removeRecord, type SaveOutcome, switchRecord, undoOnRecord } from './save/save-record'
import { sectionOf } from './sections'
import { SheetSentence } from './sentence/sheet-sentence'
import type { SheetView } from './sheet-view'
import { referenceTo, useTyped } from './save/use-typed'
import { isSwitched, weighsFirst } from './save/weighs-first'

const FIRST_FIELD: Readonly<Partial<Record<SheetView['kind'], string>>> = { variant: 'sku', currency: 'code' }

interface RecordSheetProps {
  readonly view: SheetView
  /** What the record brings about, under the sentence. */
  readonly main: ReactNode
  /** What belongs beside it. */
  readonly side: ReactNode
  readonly summary: string
  /** Links and buttons of the kind, before Copy and Archive. */
  readonly actions?: ReactNode
  /** Where what is drawn below shows the history itself, with more in it than the record’s own. */
  readonly hasOwnHistory?: boolean
}

/** One record: a sentence whose words are controls, and what it brings about, computed. */
export function RecordSheet({ view, main, side, summary, actions, hasOwnHistory = false }: RecordSheetProps) {
  useFresh(view.asOf)
  const isReady = useReady()
  const { href } = useFrame()
  const router = useRouter()
  const typed = useTyped(view)
  // A new record begins with its name.
  const [opened, setOpened] = useState<{ readonly field: string; readonly words: string } | null>(() =>
    view.id === '' && Object.keys(view.texts).length === 0
      ? { field: FIRST_FIELD[view.kind] ?? 'name', words: '…' }
      : null,
  )
  const [problem, setProblem] = useState<string | null>(null)
  const { path, singular } = sectionOf(view.kind)
  const isNew = view.id === ''
  const field = view.fields.find((each) => each.field === opened?.field)
  const isTitleField = (name: string) => name === 'name' || (view.kind === 'variant' && name === 'sku')
  const titleField = view.fields.find(({ field: name }) => isTitleField(name))
  const title = view.title || `New ${singular}`

  async function keep(name: string, text: string): Promise<string | null> {
    const before = view.fields.find((each) => each.field === name)?.text
    if (text === before) {
      setOpened(null)
      return null
    }
    if (isNew || weighsFirst(view.kind)) {
      const wrong = await typed.try(name, text)
      if (wrong === null) setOpened(null)
      return wrong
    }
    const outcome = await typed.saveField(name, text)
    if (!outcome.ok) return outcome.problem
    setOpened(null)
    return null
  }
  async function act(action: Promise<SaveOutcome>): Promise<string | null> {
    const outcome = typed.settle(await action)
    setProblem(outcome.ok ? null : outcome.problem)
    return outcome.ok ? null : outcome.problem
  }
  async function remove(): Promise<void> {
    const outcome = await removeRecord(referenceTo(view))
    if (outcome.ok) router.push(href(outcome.href))
    else setProblem(outcome.problem)
  }
  const switchWord = switchWordOf(view)
  const editor = field && (
    <FieldEditor
      key={field.field}
      field={field}
      recordId={view.id}
      label={field.name}
      initial={field.text}
      mayBeEmpty={view.fields.some(({ field: name, text }) => name === 'purpose' && text === 'contract')}
      onChange={(words) => setOpened({ field: field.field, words })}
      onCancel={() => setOpened(null)}
      onDone={(text) => keep(field.field, text)}
    />
  )
  const inDetails = view.details.some((part) => typeof part !== 'string' && part.field === opened?.field)
  const sentenceProps = {
    fields: view.fields,
    disabled: !view.live,
    opened,
    onOpen: (name: string) =>
      setOpened({ field: name, words: view.fields.find((each) => each.field === name)?.phrase ?? '' }),
  }
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
        <section
          className="min-w-0 flex-1 max-lg:flex-none lg:overflow-auto"
          aria-label={title}
          data-testid="sheet"
          data-ready={isReady}
          aria-busy={typed.isBusy}
        >
          <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 px-6 pt-4 pb-2">
            <h1 className="text-xl leading-7 font-semibold">
              {titleField ? (
                <PickerWord
                  word={opened?.field === titleField.field ? opened.words : view.title || 'name it'}
                  label={titleField.name}
                  isOpen={opened?.field === titleField.field}
                  disabled={!view.live}
                  onOpen={() => setOpened({ field: titleField.field, words: view.title || '…' })}
                  isTitle={view.title !== ''}
                />
              ) : (
                title
              )}{' '}
              <span className="text-sm font-normal text-soft">
                {isNew ? (view.copyOf ? `copy of ${view.copyOf}` : `new ${singular}`) : view.about}
              </span>
            </h1>
            {view.flag && (
              <span className="bg-warning px-2 text-xs font-semibold text-warning-content">{view.flag}</span>
            )}
            {view.archived && <span className="text-xs font-semibold text-soft">archived</span>}
            {view.live && !isNew && (
              <span className="ml-auto flex flex-wrap gap-x-4">
                {actions}
                {view.kind !== 'settings' && (
                  <>
                    <VantageLink
                      href={`/${path}/new?copy=${encodeURIComponent(view.label)}`}
                      className="link-name"
                    >
                      Copy
                    </VantageLink>
                    {switchWord !== null && (
                      <button
                        type="button"
                        className="link-name"
                        onClick={() => void act(switchRecord(referenceTo(view)))}
                      >
                        {switchWord}
                      </button>
                    )}
                    <button
                      type="button"
                      className="link-name"
                      onClick={() => void act(archiveRecord(referenceTo(view)))}
                    >
                      {view.archived ? 'Restore' : 'Archive'}
                    </button>
                    <button type="button" className="link-name" onClick={() => void remove()}>
                      Remove
                    </button>
                  </>
                )}
              </span>
            )}
          </header>
          {problem && (
            <p role="alert" className="px-6 pb-2 text-error">
              {problem}
            </p>
          )}
          {opened && field && titleField === field && <Unrolled className="pb-3">{editor}</Unrolled>}
          <p className="max-w-5xl px-6 pb-2 text-base leading-8" data-testid="sentence">
            <SheetSentence sentence={view.sentence} {...sentenceProps} />
          </p>
          {opened && field && titleField !== field && !inDetails && (
            <Unrolled className="pb-3">{editor}</Unrolled>
          )}
          {view.details.length > 0 && (
            <p className="px-6 pb-3 text-xs leading-6" data-testid="details">
              <SheetSentence sentence={view.details} {...sentenceProps} />
            </p>
          )}
          {opened && field && titleField !== field && inDetails && (
            <Unrolled className="pb-3">{editor}</Unrolled>
          )}
          <div className="px-6 pt-1">
            <FieldEditProvider edit={view.live ? keep : null}>{main}</FieldEditProvider>
          </div>
          {!isNew && !hasOwnHistory && (
            <HistorySection
              history={view.history}
              onUndo={view.live ? (changeSet) => act(undoOnRecord(referenceTo(view), changeSet)) : undefined}
            />
          )}
        </section>
        {side && (
          <aside
            aria-label="What belongs to it"
            className="shrink-0 border-base-300 bg-lifted px-4 py-4 max-lg:border-t lg:w-[17rem] lg:overflow-auto lg:border-l"
          >
            <FieldEditProvider edit={view.live ? keep : null}>{side}</FieldEditProvider>
          </aside>
        )}
      </div>
      {view.live && (isNew || Object.keys(view.texts).length > 0) && (
        <SaveBar
          view={view}
          summary={summary}
          isBusy={typed.isBusy}
          onSave={typed.save}
          onDiscard={typed.discard}
        />
      )}
    </div>
  )
}

/** What the switch of a record does next; `null` for records that have none. */
function switchWordOf({ kind, fields }: SheetView): string | null {
  const state = fields.find(({ field }) => field === 'state')?.text
  if (kind === 'contract') return state === 'active' ? 'Suspend' : 'Put into force'
  if (!isSwitched(kind)) return null
  return state === 'on' ? 'Switch off' : 'Switch on'
}
