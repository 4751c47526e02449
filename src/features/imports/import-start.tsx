'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { useReady } from '@/ui/frame/use-ready'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import { type DragEvent, useState } from 'react'
import type { ImportView, ProgressView } from './import-view'
import type { ReceiveOutcome } from './receive-file'

interface ImportStartProps {
  readonly lists: readonly { readonly code: string; readonly name: string }[]
  /** Code of the list somebody came from. */
  readonly chosen: string | null
  readonly earlier: readonly ImportView[]
}

/** Where a file is chosen, and what it is read into. */
export function ImportStart({ lists, chosen, earlier }: ImportStartProps) {
  const { href } = useFrame()
  const router = useRouter()
  const [into, setInto] = useState<'products' | 'lines'>(chosen === null ? 'products' : 'lines')
  const [list, setList] = useState(chosen ?? '')
  const [problem, setProblem] = useState<string | null>(null)
  const [sending, setSending] = useState<string | null>(null)
  const [over, setOver] = useState(false)

  async function send(file: File | undefined): Promise<void> {
    if (!file) return
    setProblem(null)
    setSending(file.name)
    const fields = new URLSearchParams({ into, name: file.name, ...(into === 'lines' && list && { list }) })
    try {
      const response = await fetch(`/api/imports?${fields}`, { method: 'POST', body: file })
      const outcome = (await response.json()) as ReceiveOutcome
      if (outcome.ok) return router.push(href(`/import/${outcome.id}`))
      setProblem(`${file.name}: ${outcome.problem}`)
    } catch {
      setProblem(`${file.name} could not be sent. Nothing was changed; try again.`)
    }
    setSending(null)
  }

  function onDrop(event: DragEvent): void {
    event.preventDefault()
    setOver(false)
    void send(event.dataTransfer.files[0])
  }

  return (
    <section
      className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8"
      data-ready={useReady()}
      aria-label="Import"
    >
      <h1 className="text-xl leading-7 font-semibold">Import</h1>
      <p className="max-w-2xl text-soft">
        Bring products or prices in from a spreadsheet. You match its columns and see what every row would
        change before anything is written; afterwards all of it can be undone at once.
      </p>
      <fieldset className="flex flex-wrap items-baseline gap-x-6 gap-y-2 pt-5">
        <legend className="sr-only">What the file is read into</legend>
        <label className="flex items-center gap-2">
          <input
            type="radio"
            name="into"
            checked={into === 'products'}
            onChange={() => setInto('products')}
          />
          Products, one row a SKU
        </label>
        <label className="flex items-center gap-2">
          <input type="radio" name="into" checked={into === 'lines'} onChange={() => setInto('lines')} />
          Prices of price lists, one row an item
        </label>
        {into === 'lines' && (
          <label className="flex items-baseline gap-2 text-soft">
            for
            <select
              className="cursor-pointer bg-transparent word text-base-content"
              value={list}
              onChange={(event) => setList(event.target.value)}
            >
              <option value="">the lists the file names</option>
              {lists.map(({ code, name }) => (
                <option key={code} value={code}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        )}
      </fieldset>
      <label
        className={`mt-4 flex max-w-2xl cursor-pointer flex-col gap-1 border border-dashed px-6 py-8 focus-within:outline-2 focus-within:outline-secondary ${
          over ? 'border-primary bg-chosen' : 'border-base-content/40 bg-lifted'
        }`}
        onDragOver={(event) => {
          event.preventDefault()
          setOver(true)
        }}
        onDragLeave={() => setOver(false)}
        onDrop={onDrop}
      >
        <span className="text-base font-semibold">
          {sending ? `Reading ${sending} …` : 'Choose a file, or drop it here'}
        </span>
        <span className="text-soft">
          CSV or XLSX with headings in its first row, up to 250,000 rows.
          {into === 'products'
            ? ' Only the SKU is needed for products you have; a new one also needs a name and a category.'
            : ' A SKU, product code, category or family, and a price or rule such as 17.60 or -12%; several rows with a quantity make breaks.'}
        </span>
        <input
          type="file"
          accept=".csv,.tsv,.txt,.xlsx"
          className="sr-only"
          disabled={sending !== null}
          onChange={(event) => {
            void send(event.target.files?.[0])
            event.target.value = ''
          }}
        />
      </label>
      {problem && (
        <p role="alert" className="max-w-2xl pt-2 text-error">
          {problem}
        </p>
      )}
      <p className="pt-4">
        <a href="/api/products" download className="link-name">
          Download your products as CSV
        </a>{' '}
        <span className="text-soft">
          to edit them in a spreadsheet: its headings are matched by themselves.
        </span>
      </p>
      {earlier.length > 0 && (
        <>
          <h2 className="pt-6 pb-1 text-xs font-semibold">Files since the server was started</h2>
          <ul className="max-w-2xl">
            {earlier.map((each) => (
              <li
                key={each.id}
                className="grid grid-cols-[1fr_1fr_auto] gap-3 border-b border-dotted border-base-300 py-1"
              >
                <VantageLink href={`/import/${each.id}`} className="truncate link-name">
                  {each.fileName}
                </VantageLink>
                <span className="truncate text-soft">
                  {each.rowCount.toLocaleString('en')} rows into {each.into}
                </span>
                <span>{progressWords(each.progress)}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  )
}

function progressWords(progress: ProgressView): string {
  switch (progress.step) {
    case 'matching':
      return 'columns to be matched'
    case 'working':
      return `${progress.words.toLowerCase()} …`
    case 'preview':
      return 'to be looked at'
    case 'stopped':
      return 'stopped'
    case 'done':
      return `${progress.rows} rows imported`
  }
}
