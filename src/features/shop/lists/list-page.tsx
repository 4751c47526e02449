'use client'

import { formatAmount } from '@/ui/format/amount'
import { ProductPicture } from '@/ui/format/product-picture'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { SHOP_INPUT } from '../frame/labelled'
import {
  addToList,
  dropList,
  type ListProblem,
  orderFromList,
  renameList,
  setListLine,
  shareList,
} from './list-actions'
import type { ListLineView, ListView } from './list-view'

const keyOf = ({ sku, extras }: ListLineView) => [sku, ...extras].join(' ')

/** One list at today's prices beside what was paid last; all or some of it goes into the cart. */
export function ListPage({ view }: { readonly view: ListView }) {
  const { id, name, isShared, mayKeepAlone, changed, lines, words, currency } = view
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const [problem, setProblem] = useState<ListProblem>(null)
  const [pasted, setPasted] = useState('')
  const [isBusy, start] = useTransition()
  const router = useRouter()
  const chosen = lines.filter((line) => line.problem === '' && !left.has(keyOf(line)))

  function run(act: () => Promise<ListProblem>, done = () => {}): void {
    start(async () => {
      const found = await act().catch(() => 'The server did not answer. Nothing was changed; try again.')
      setProblem(found ?? null)
      if (found === null) done()
      router.refresh()
    })
  }
  return (
    <>
      <p className="pb-1">
        <Link href="/shop/lists" className="underline underline-offset-2">
          All lists
        </Link>
      </p>
      <h1>
        <input
          key={name}
          aria-label="Name of the list"
          className="w-full max-w-2xl bg-transparent text-3xl leading-10 font-bold tracking-tight hover:bg-lifted focus:bg-lifted"
          defaultValue={name}
          maxLength={80}
          onBlur={(event) => {
            const wanted = event.target.value.trim()
            if (wanted !== name) run(() => renameList(id, name, wanted))
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </h1>
      <p className="flex flex-wrap gap-x-3 pb-4 text-soft">
        <span>{isShared ? 'Everybody of the account sees it.' : 'Only you see it.'}</span>
        {mayKeepAlone && (
          <button
            type="button"
            className="underline underline-offset-2"
            disabled={isBusy}
            onClick={() => run(() => shareList(id, !isShared))}
          >
            {isShared ? 'Keep it to yourself' : 'Share it'}
          </button>
        )}
        <span>
          Changed on {changed}. Prices in {currency}, {words}.
        </span>
      </p>
      {problem !== null && (
        <p role="alert" className="pb-3 text-error">
          {problem}
        </p>
      )}
      {lines.length === 0 && <p className="pb-4 text-base">Nothing is on it yet: add items below.</p>}
      <ul className="max-w-4xl border-t border-base-content" aria-label="Items">
        {lines.map((line) => (
          <Line
            key={`${keyOf(line)} ${line.quantity}`}
            line={line}
            view={view}
            isChosen={chosen.includes(line)}
            onChoose={(isTaken) => {
              const next = new Set(left)
              if (isTaken) next.delete(keyOf(line))
              else next.add(keyOf(line))
              setLeft(next)
            }}
            onQuantity={(typed) =>
              run(() => setListLine(id, { sku: line.sku, extras: line.extras, seen: line.quantity, typed }))
            }
          />
        ))}
      </ul>
      <div className="flex max-w-4xl flex-wrap items-end justify-between gap-4 pt-4">
        <form
          className="flex flex-1 flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            run(
              () => addToList(id, pasted),
              () => setPasted(''),
            )
          }}
        >
          <label className="min-w-56 flex-1">
            <span className="text-soft">Add items: a SKU and how many on each line</span>
            <textarea
              rows={1}
              className={SHOP_INPUT}
              placeholder="FR-BR-PF 20"
              value={pasted}
              onChange={(event) => setPasted(event.target.value)}
            />
          </label>
          <button type="submit" className="btn btn-outline" disabled={isBusy || pasted.trim() === ''}>
            Add
          </button>
        </form>
        <button
          type="button"
          className="btn btn-primary"
          disabled={isBusy || chosen.length === 0}
          onClick={() =>
            run(() =>
              orderFromList(
                id,
                chosen.map(({ sku, extras, quantity }) => ({ sku, extras, quantity })),
              ),
            )
          }
        >
          {chosen.length === lines.length
            ? 'Add all to cart'
            : `Add ${chosen.length} of ${lines.length} to cart`}
        </button>
      </div>
      <form action={dropList} className="pt-6">
        <input type="hidden" name="id" value={id} />
        <button type="submit" className="text-soft underline underline-offset-2">
          Remove this list{isShared ? ' for everybody' : ''}
        </button>
      </form>
    </>
  )
}

interface LineProps {
  readonly line: ListLineView
  readonly view: ListView
  readonly isChosen: boolean
  readonly onChoose: (isTaken: boolean) => void
  readonly onQuantity: (typed: string) => void
}

function Line({ line, view: { digits, priceDigits }, isChosen, onChoose, onQuantity }: LineProps) {
  const {
    sku,
    name,
    extraNames,
    picture,
    product,
    quantity,
    unit,
    total,
    paid,
    paidWhen,
    paidLess,
    problem,
  } = line
  return (
    <li className="grid grid-cols-[auto_1fr_5rem] items-center gap-x-4 gap-y-1 border-b border-base-300 py-2 sm:grid-cols-[auto_1fr_5rem_9rem_7rem]">
      <span className="flex items-center gap-3">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          aria-label={`Order ${name}`}
          disabled={problem !== ''}
          checked={isChosen}
          onChange={(event) => onChoose(event.target.checked)}
        />
        <span className="block h-10 w-13 bg-plate max-sm:hidden">
          {picture && <ProductPicture name={picture} className="h-10 w-13 object-contain" />}
        </span>
      </span>
      <span className="text-base">
        {product === null ? (
          name
        ) : (
          <Link
            href={`/shop/product/${encodeURIComponent(product)}?sku=${encodeURIComponent(sku)}`}
            className="hover:underline"
          >
            {name}
          </Link>
        )}{' '}
        <span className="text-xs text-soft">{sku}</span>
        {extraNames.length > 0 && <span className="block">with {extraNames.join(', ')}</span>}
        {problem !== '' && <span className="block text-sm text-error">{problem}</span>}
      </span>
      <input
        aria-label={`Quantity of ${sku}`}
        inputMode="decimal"
        className={`${SHOP_INPUT} text-right tabular-nums`}
        defaultValue={quantity}
        onBlur={(event) => {
          if (event.target.value.trim() !== quantity) onQuantity(event.target.value)
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      <span className="text-right tabular-nums max-sm:col-start-2 max-sm:text-left">
        {unit === null ? 'price on request' : formatAmount(unit, priceDigits)}
        {paid !== '' && (
          <span className={`block text-xs ${paidLess ? 'text-warning-content' : 'text-soft'}`}>
            {paid} on {paidWhen}
          </span>
        )}
      </span>
      <span className="text-right text-base font-semibold tabular-nums">
        {total === null ? '–' : formatAmount(total, digits)}
      </span>
    </li>
  )
}
