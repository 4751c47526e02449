'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { PickerWord } from '@/ui/picker/picker-word'
import { createRecord } from './edit-record'
import { FieldPicker, pickedOf, type Picked } from './field-picker'
import type { RecordView } from './record-view'
import { sectionOf } from './sections'

const INPUT = 'w-full border border-base-300 bg-lifted px-2 py-1'

/** A record that is being made: the same fields as on its sheet, saved all at once. */
export function NewRecordForm({ view }: { readonly view: RecordView }) {
  const { href } = useFrame()
  const router = useRouter()
  const { singular, about } = sectionOf(view.kind)
  const copyOf = view.label === '' ? null : view.label
  const [texts, setTexts] = useState<Readonly<Record<string, string>>>({})
  const [problem, setProblem] = useState<string | null>(null)
  const [opened, setOpened] = useState<{ readonly field: string; readonly words: string } | null>(null)
  const [chosen, setChosen] = useState<
    Readonly<Record<string, { readonly picked: Picked; readonly words: string }>>
  >({})
  const [busy, setBusy] = useState(false)

  async function create(): Promise<void> {
    setBusy(true)
    try {
      const outcome = await createRecord(view.kind, texts, copyOf)
      if (outcome.ok) return router.push(href(outcome.href))
      setProblem(outcome.problem)
    } catch {
      setProblem('The server did not answer. Nothing was lost; try again.')
    }
    setBusy(false)
  }

  return (
    <form
      className="min-h-0 flex-1 overflow-auto px-6 pt-4 pb-8"
      aria-label={`New ${singular}`}
      onSubmit={(event) => {
        event.preventDefault()
        void create()
      }}
    >
      <h1 className="text-xl leading-7 font-semibold">{copyOf ? `Copy of ${copyOf}` : `New ${singular}`}</h1>
      <p className="max-w-2xl pb-4 text-soft">{about}</p>
      <div className="flex max-w-2xl flex-col gap-2">
        {view.fields.map((field, at) => {
          const shared = {
            id: `new-${field.field}`,
            className: INPUT,
            'aria-describedby': `new-${field.field}-hint`,
            value: texts[field.field] ?? field.text,
            onChange: (event: { target: { value: string } }) =>
              setTexts({ ...texts, [field.field]: event.target.value }),
          }
          return (
            <div key={field.field} className="grid grid-cols-[9.5rem_1fr] items-baseline gap-x-2">
              <label htmlFor={shared.id} className="text-soft">
                {field.name}
              </label>
              <div>
                {pickedOf(field) ? (
                  <PickerWord
                    word={
                      opened?.field === field.field
                        ? opened.words
                        : (chosen[field.field]?.words ?? field.phrase)
                    }
                    label={field.name}
                    isOpen={opened?.field === field.field}
                    disabled={false}
                    onOpen={() =>
                      setOpened({
                        field: field.field,
                        words: chosen[field.field]?.words ?? field.phrase,
                      })
                    }
                  />
                ) : field.control === 'choice' ? (
                  <select {...shared}>
                    {field.options.map(({ value, name }) => (
                      <option key={value} value={value}>
                        {name}
                      </option>
                    ))}
                  </select>
                ) : field.control === 'lines' ? (
                  <textarea {...shared} rows={2} />
                ) : (
                  <input {...shared} autoFocus={at === 0} />
                )}
                <p id={`new-${field.field}-hint`} className="text-xs text-soft">
                  {pickedOf(field) ? '' : field.hint}
                </p>
              </div>
              {opened?.field === field.field && (
                <div className="col-span-2 w-[min(64rem,80vw)] py-2">
                  <FieldPicker
                    field={field}
                    label={field.name}
                    initial={chosen[field.field]?.picked ?? (pickedOf(field) as Picked)}
                    mayBeEmpty={view.kind === 'price-list'}
                    onChange={(words) => setOpened({ field: field.field, words })}
                    onCancel={() => setOpened(null)}
                    onDone={async (picked, text) => {
                      setTexts({ ...texts, [field.field]: text })
                      setChosen({ ...chosen, [field.field]: { picked, words: opened.words } })
                      setOpened(null)
                      return null
                    }}
                  />
                </div>
              )}
            </div>
          )
        })}
      </div>
      <footer className="sticky -bottom-8 -mx-6 -mb-8 flex items-center gap-4 border-t border-base-300 bg-base-100 px-6 py-2">
        <button type="submit" className="btn btn-primary btn-sm" disabled={busy}>
          Create
        </button>
        {problem && (
          <p role="alert" className="text-error">
            {problem}
          </p>
        )}
      </footer>
    </form>
  )
}
