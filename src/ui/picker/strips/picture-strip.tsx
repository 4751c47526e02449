'use client'

import { ProductPicture } from '@/ui/format/product-picture'
import { useState } from 'react'
import { PickerPanel } from '../panel/picker-panel'
import { Key } from '../panel/picker-parts'
import type { StripProps } from './strip'
import { useDone } from '../panel/use-done'

/** Drawings that ship with Steppe, for products without a picture of their own. */
const DRAWINGS =
  'hive frame foundation box jar-round bottle bucket bag book suit gloves hive-tool smoker extractor feeder queen'.split(
    ' ',
  )

/** A product's picture: a file of one's own, or one of the drawings. */
export function PictureStrip({ label, initial, onDone, onCancel }: StripProps) {
  const [name, setName] = useState(initial)
  const { problem, setProblem, isBusy, done } = useDone(onDone)

  async function upload(file: File): Promise<void> {
    setProblem(null)
    try {
      const response = await fetch('/api/pictures', { method: 'POST', body: file })
      const outcome = (await response.json()) as { ok?: boolean; name?: string; problem?: string }
      if (outcome.ok && outcome.name) setName(outcome.name)
      else setProblem(outcome.problem ?? 'The picture was not taken. Try another file.')
    } catch {
      setProblem('The server did not answer. Try again.')
    }
  }
  return (
    <PickerPanel
      label={label}

      problem={problem}
      isBusy={isBusy}
      keys={<Key>Enter</Key>}
      onDone={() => void done(name)}
      onCancel={onCancel}

      foot={<span className="text-soft">Shown in the shop, on the board and in lists.</span>}
    >
      <div className="flex flex-wrap items-center gap-6 px-6 py-3">
        <ProductPicture name={name} className="size-24 border border-base-300 bg-plate object-contain" />
        <label className="flex flex-col gap-1">
          <span className="text-soft">A picture of your own: PNG, JPEG, WebP or SVG, up to 2 MB</span>
          <input
            type="file"
            autoFocus
            accept="image/png,image/jpeg,image/webp,image/svg+xml"
            onChange={(event) => {
              const [file] = event.target.files ?? []
              if (file) void upload(file)
            }}
          />
        </label>
        <div role="group" aria-label="Drawings" className="flex flex-wrap gap-2">
          {DRAWINGS.map((drawing) => (
            <button
              key={drawing}
              type="button"
              aria-label={`Drawing: ${drawing}`}
              aria-pressed={name === drawing}
              className="border border-base-300 bg-plate p-1 aria-pressed:border-2 aria-pressed:border-primary"
              onClick={() => setName(drawing)}
            >
              <ProductPicture name={drawing} className="size-9" />
            </button>
          ))}
        </div>
      </div>
    </PickerPanel>
  )
}
