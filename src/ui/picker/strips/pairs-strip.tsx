'use client'

import { useState } from 'react'
import { PickerPanel } from '../panel/picker-panel'
import { Key } from '../panel/picker-parts'
import type { StripProps } from './strip'
import { useDone } from '../panel/use-done'

interface PairsStripProps extends StripProps {
  readonly name: string
  readonly hint: string
  /** What stands left and right: "Currency", "Amount". */
  readonly heads: readonly [string, string]
}

type Pair = readonly [name: string, value: string]

function pairsOf(text: string): readonly Pair[] {
  return text
    .split('\n')
    .filter(Boolean)
    .map((line): Pair => {
      const at = line.indexOf('=')
      return at < 0 ? [line, ''] : [line.slice(0, at), line.slice(at + 1)]
    })
}

const INPUT = 'w-full border border-base-300 bg-lifted px-2 py-0.5'

/** Names with a value each, in a small grid with an empty row at its end. */
export function PairsStrip({ label, name, hint, heads, initial, onDone, onCancel }: PairsStripProps) {
  const [pairs, setPairs] = useState(() => pairsOf(initial))
  const { problem, isBusy, done } = useDone(onDone)
  const rows: readonly Pair[] = [...pairs, ['', '']]
  const set = (at: number, pair: Pair) =>
    setPairs(rows.map((each, place) => (place === at ? pair : each)).filter(([left, right]) => left || right))
  const text = pairs.map(([left, right]) => `${left.trim()}=${right.trim()}`).join('\n')
  return (
    <PickerPanel
      label={label}

      problem={problem}
      isBusy={isBusy}
      keys={
        <>
          <Key>Tab</Key> next field · <Key>Enter</Key> keeps it
        </>
      }
      onDone={() => void done(text)}
      onCancel={onCancel}

      foot={<span className="text-soft">{hint}</span>}
    >
      <div className="grid grid-cols-[9rem_1fr] items-start gap-x-4 px-6 py-3">
        <span className="text-soft">{name}</span>
        <table className="w-full max-w-md">
          <thead>
            <tr className="text-left text-xs text-soft">
              {heads.map((head) => (
                <th key={head} className="pb-1 font-semibold">
                  {head}
                </th>
              ))}
              <th>
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map(([left, right], at) => (
              <tr key={at}>
                <td className="pr-2 pb-1">
                  <input
                    autoFocus={at === rows.length - 1}
                    aria-label={`${heads[0]} ${at + 1}`}
                    className={INPUT}
                    value={left}
                    onChange={(event) => set(at, [event.target.value, right])}
                  />
                </td>
                <td className="pr-2 pb-1">
                  <input
                    aria-label={`${heads[1]} ${at + 1}`}
                    className={INPUT}
                    value={right}
                    onChange={(event) => set(at, [left, event.target.value])}
                  />
                </td>
                <td className="w-6">
                  {at < pairs.length && (
                    <button
                      type="button"
                      aria-label={`Remove ${left}`}
                      className="px-1 text-soft hover:text-error"
                      onClick={() => setPairs(pairs.filter((_, place) => place !== at))}
                    >
                      ×
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </PickerPanel>
  )
}
