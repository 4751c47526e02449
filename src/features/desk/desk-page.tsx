'use client'

import type { Vantage } from '@/core/engine/context/vantage'
import { useFrame } from '@/ui/frame/frame-context'
import { useReady } from '@/ui/frame/use-ready'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import { useRef, useState, useTransition } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { toast } from 'sonner'
import { type DeskActed, makeDeskQuote, placeDesk, setDeskAside } from './desk-actions'
import { DeskFind } from './desk-find'
import { DeskHead } from './desk-head'
import { DeskLines } from './desk-lines'
import { DeskOffers } from './desk-offers'
import { DeskSide } from './desk-side'
import type { DeskView } from './desk-view'
import { useDesk } from './use-desk'

const KEYS = [
  ['Tab', 'next field'],
  ['↑ ↓', 'lines'],
  ['Del', 'remove'],
  ['Ctrl Z', 'undo'],
  ['Alt B', 'buyer'],
  ['Alt P', 'price by hand'],
  ['Alt T', 'why this price'],
] as const
/** Also while something is typed. */
const EVERYWHERE = { enableOnFormTags: true, preventDefault: true } as const

/** An order that staff write down for a buyer, by keyboard alone if they like. */
export function DeskPage({ view }: { readonly view: DeskView }) {
  const desk = useDesk(view)
  const [focused, setFocused] = useState(-1)
  const [problem, setProblem] = useState('')
  const [isBusy, start] = useTransition()
  const find = useRef<HTMLInputElement>(null)
  const buyerWord = useRef<HTMLButtonElement>(null)
  const table = useRef<HTMLTableElement>(null)
  const router = useRouter()
  const { href, vantage, showTrace } = useFrame()
  const { number, version, typed, figures, isSettled } = desk
  const toFind = () => find.current?.focus()
  const toLine = (at: number, field: string) =>
    table.current?.querySelector<HTMLInputElement>(`[data-row="${at}"][data-field="${field}"]`)?.focus()
  const line = Math.min(Math.max(0, focused), typed.lines.length - 1)

  function run(
    act: (seen: { readonly number: number; readonly version: number }) => Promise<DeskActed>,
  ): void {
    if (number === null || !isSettled || isBusy) return
    setProblem('')
    start(async () => {
      const acted = await act({ number, version }).catch((): DeskActed => ({
        ok: false,
        problem: 'The server did not answer. Nothing was done; try again.',
      }))
      if (!acted.ok) return setProblem(acted.problem)
      if (acted.told) toast(acted.told)
      router.push(href(acted.to))
      router.refresh()
    })
  }
  const place = () => run((seen) => placeDesk(seen, figures?.seen ?? ''))
  const fix = figures?.lines.findIndex((each) => each.fix !== null) ?? -1
  useHotkeys('ctrl+enter, meta+enter', place, EVERYWHERE, [place])
  useHotkeys('ctrl+z, meta+z', desk.undo, EVERYWHERE, [desk])
  useHotkeys('alt+b', () => buyerWord.current?.click(), EVERYWHERE)
  useHotkeys(
    'alt+t',
    () => {
      const asked = typed.lines[line]
      if (!asked) return
      const from: Vantage = {
        ...vantage,
        as: typed.account === '' ? 'guest' : `account:${typed.account}`,
        buying: Math.max(1, Math.round(Number(asked.quantity)) || 1),
        channel: typed.channel === '' ? null : typed.channel,
      }
      showTrace({ sku: asked.sku, from }, true)
    },
    EVERYWHERE,
    [typed, line, vantage, showTrace],
  )
  useHotkeys('alt+p', () => toLine(line, 'price'), EVERYWHERE, [line])
  useHotkeys(
    'alt+m',
    () => {
      const quantity = figures?.lines[fix]?.fix
      if (quantity) desk.changeLine(fix, { quantity })
    },
    EVERYWHERE,
    [desk, fix],
  )
  useHotkeys(
    'alt+1, alt+2, alt+3, alt+4, alt+5, alt+6, alt+7, alt+8, alt+9',
    (event) => {
      const offer = figures?.offers[Number(event.code.slice(-1)) - 1]
      if (!offer || offer.choice === 'always') return
      desk.change({
        choices: { ...typed.choices, [offer.code]: offer.choice === 'taken' ? 'left' : 'taken' },
      })
    },
    EVERYWHERE,
    [desk, figures],
  )
  return (
    <div className="flex min-h-0 flex-1" data-testid="desk" data-ready={useReady()}>
      <section className="flex min-h-0 min-w-0 flex-1 flex-col" aria-label="Desk">
        <div className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-6">
          <div className="flex items-baseline gap-4">
            <h1 className="text-xl leading-7 font-semibold">Desk</h1>
            <span className="mr-auto text-soft">
              {number === null ? 'A new order' : `Order D-${number}`}
              {view.begun && `, ${view.begun}`}
            </span>
            {number !== null && (
              <>
                <button
                  type="button"
                  className="link-name"
                  onClick={() => run((seen) => setDeskAside(seen, 'held'))}
                >
                  Hold
                </button>
                <button type="button" className="link-name" onClick={() => run(makeDeskQuote)}>
                  Make it a quote
                </button>
                <button
                  type="button"
                  className="link-name"
                  onClick={() => run((seen) => setDeskAside(seen, 'discarded'))}
                >
                  Give it up
                </button>
              </>
            )}
          </div>
          {view.held.length > 0 && (
            <p className="text-xs text-soft">
              Held:{' '}
              {view.held.map(({ number: other, about }, at) => (
                <span key={other}>
                  {at > 0 && ' · '}
                  <VantageLink href={`/desk?order=${other}`} className="link-name">
                    D-{other}
                  </VantageLink>{' '}
                  {about}
                </span>
              ))}
            </p>
          )}
          <DeskHead desk={desk} channels={view.channels} buyerWord={buyerWord} onChosen={toFind} />
          <DeskFind
            content={typed}
            field={find}
            digits={figures?.digits ?? 2}
            priceDigits={figures?.priceDigits ?? 2}
            onAdd={(sku, quantity) => desk.addLines([{ sku, quantity, extras: [], price: '', reason: '' }])}
            onDown={() => toLine(0, 'quantity')}
          />
          <DeskLines desk={desk} table={table} focused={focused} onFocus={setFocused} onUp={toFind} />
          {figures && <DeskOffers desk={desk} figures={figures} />}
          {typed.lines.length > 0 && (
            <div className="flex flex-wrap items-baseline gap-x-8 gap-y-2 pt-4">
              <label className="flex items-baseline gap-3 text-soft">
                Their reference
                <input
                  className="w-40 rounded-field border border-base-300 bg-lifted px-2 py-0.5 text-base-content"
                  maxLength={60}
                  value={typed.reference}
                  onChange={(event) => desk.change({ reference: event.target.value })}
                />
              </label>
              <label className="flex flex-1 items-baseline gap-3 text-soft">
                <span className="whitespace-nowrap">Note on the delivery slip</span>
                <input
                  className="w-full rounded-field border border-base-300 bg-lifted px-2 py-0.5 text-base-content"
                  maxLength={300}
                  placeholder="printed for whoever loads the van"
                  value={typed.note}
                  onChange={(event) => desk.change({ note: event.target.value })}
                />
              </label>
            </div>
          )}
        </div>
        <footer className="flex flex-wrap gap-x-4 border-t border-base-300 px-6 py-2 text-xs text-soft">
          {KEYS.map(([key, about]) => (
            <span key={key}>
              <kbd className="kbd kbd-xs">{key}</kbd> {about}
            </span>
          ))}
          <span className="ml-auto" role="status">
            {desk.problem ? 'Not saved' : isSettled ? 'Saved as you type' : 'Saving…'}
          </span>
        </footer>
      </section>
      <aside
        className="w-72 shrink-0 overflow-auto border-l border-base-300 bg-lifted px-4 py-3"
        aria-label="This order"
      >
        <DeskSide desk={desk} isBusy={isBusy} problem={problem} onPlace={place} />
      </aside>
    </div>
  )
}
