'use client'

import { useState } from 'react'
import { PickerPanel } from '../panel/picker-panel'
import { Key } from '../panel/picker-parts'
import type { StripProps } from './strip'
import { useDone } from '../panel/use-done'

const AMOUNTS = [
  ['base', 'Base price'],
  ['cost', 'Cost'],
  ['rrp', 'Recommended'],
  ['floor', 'Floor'],
] as const

type Row = Readonly<Record<string, string>>

function rowsOf(text: string): ReadonlyMap<string, Row> {
  return new Map(
    text
      .split('\n')
      .filter(Boolean)
      .map((line): [string, Row] => {
        const [code = '', ...parts] = line.split(/\s+/)
        return [code, Object.fromEntries(parts.map((part) => part.split('=') as [string, string]))]
      }),
  )
}

const INPUT = 'w-24 border border-base-300 bg-lifted px-2 py-0.5 text-right'

/** Amounts that are set in other currencies instead of converted: one row a currency. */
export function OwnAmountsStrip({
  label,
  name,
  hint,
  currencies,
  initial,
  onDone,
  onCancel,
}: StripProps & { readonly name: string; readonly hint: string; readonly currencies: readonly string[] }) {
  const [rows, setRows] = useState(() => rowsOf(initial))
  const { problem, isBusy, done } = useDone(onDone)
  const all = [...new Set([...currencies, ...rows.keys()])]
  const text = all
    .flatMap((code) => {
      const set = AMOUNTS.flatMap(([word]) => {
        const amount = (rows.get(code)?.[word] ?? '').replace(/\s+/g, '')
        return amount === '' ? [] : [`${word}=${amount}`]
      })
      return set.length === 0 ? [] : [`${code} ${set.join(' ')}`]
    })
    .join('\n')
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
        {all.length === 0 ? (
          <p className="text-soft">The store has no other currency yet. Add one under Currencies.</p>
        ) : (
          <table className="max-w-xl">
            <thead>
              <tr className="text-right text-xs text-soft">
                <th className="pb-1 text-left font-semibold">Currency</th>
                {AMOUNTS.map(([word, title]) => (
                  <th key={word} className="pb-1 pl-2 font-semibold">
                    {title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {all.map((code, at) => (
                <tr key={code}>
                  <th scope="row" className="pr-2 pb-1 text-left font-semibold">
                    {code}
                  </th>
                  {AMOUNTS.map(([word, title], column) => (
                    <td key={word} className="pb-1 pl-2">
                      <input
                        autoFocus={at === 0 && column === 0}
                        inputMode="decimal"
                        aria-label={`${title} in ${code}`}
                        placeholder="converted"
                        className={INPUT}
                        value={rows.get(code)?.[word] ?? ''}
                        onChange={(event) =>
                          setRows(new Map(rows).set(code, { ...rows.get(code), [word]: event.target.value }))
                        }
                      />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </PickerPanel>
  )
}
