'use client'

import { type FormEvent, useState, useTransition } from 'react'
import { Labelled, SHOP_INPUT } from '../frame/labelled'
import { isEmpty, type QuickRow } from '../quick/quick-rows'
import { QuickRowsTable } from '../quick/quick-rows-table'
import type { ResolvedOrder } from '../quick/resolved'
import { RowsFile } from '../quick/rows-file'
import { useQuickRows } from '../quick/use-quick-rows'
import { type AskFile, AskFiles } from './ask-files'
import { askForQuote } from './quote-actions'

export interface AskView {
  readonly first: ResolvedOrder
  readonly begun: readonly QuickRow[]
  /** Where an account can have it delivered; empty for guests, who say so. */
  readonly addresses: readonly string[]
  readonly countries: readonly { readonly code: string; readonly name: string }[]
  readonly country: string
  /** Whether whoever looks may ask for anything at all. */
  readonly isGuest: boolean
}

const GUEST_FIELDS = [
  ['name', 'Name', 'name'],
  ['email', 'E-mail', 'email'],
  ['street', 'Street', 'street-address'],
  ['postcode', 'Postcode', 'postal-code'],
  ['city', 'City', 'address-level2'],
] as const

/** What a quote is asked for, and what should be known before it is answered. */
export function AskForm({ view }: { readonly view: AskView }) {
  const [problems, setProblems] = useState<Readonly<Record<string, string>>>({})
  const [files, setFiles] = useState<readonly AskFile[]>([])
  const [isSending, send] = useTransition()
  const quick = useQuickRows(view.first, 'quote', { begun: view.begun })
  const { rows, order, isSettled, isOff, problem } = quick

  function onSend(event: FormEvent<HTMLFormElement>): void {
    event.preventDefault()
    const fields = Object.fromEntries(
      [...new FormData(event.currentTarget)].map(([name, value]) => [name, String(value)]),
    )
    send(async () => {
      const answer = await askForQuote(
        rows.filter((row) => !isEmpty(row)),
        fields,
        files.map(({ id }) => id),
      ).catch(() => ({ problems: { all: 'The server did not answer. Nothing was sent; try again.' } }))
      setProblems(answer?.problems ?? {})
    })
  }
  const asked = order.rows.filter(({ kind }) => kind === 'ready').length
  return (
    <form noValidate onSubmit={onSend} className="max-w-5xl" data-ready={isSettled}>
      <h1 className="text-3xl leading-9 font-bold tracking-tight">Ask for a quote</h1>
      <p className="pt-1 pb-4 text-base text-soft">
        Say what it is about, and what you would like to pay if you know. We answer with prices for exactly
        this, and you order at them or not.
      </p>
      <QuickRowsTable quick={quick} label="Items to quote" hasWish />
      <div className="flex flex-wrap items-baseline justify-between gap-x-6 border-t border-base-content pt-2 pb-6">
        <RowsFile onFile={quick.onFile} />
        {isOff && <p className="text-error">The server does not answer. What you typed is still here.</p>}
        {problem && (
          <p role="alert" className="text-error">
            {problem}
          </p>
        )}
      </div>
      <div className="grid grid-cols-1 gap-x-12 gap-y-4 md:grid-cols-2">
        <div className="min-w-0 space-y-2">
          <Labelled label="Message" problem={problems['message']}>
            <textarea name="message" rows={5} className={SHOP_INPUT} />
          </Labelled>
          <AskFiles files={files} onChange={setFiles} />
        </div>
        <div className="grid content-start gap-4">
          <Labelled label="Needed by, if it matters" problem={problems['neededBy']}>
            <input type="date" name="neededBy" className={SHOP_INPUT} />
          </Labelled>
          {view.addresses.length > 0 && (
            <Labelled label="Delivered to" problem={problems['address']}>
              <select name="address" className={SHOP_INPUT}>
                {view.addresses.map((address, at) => (
                  <option key={address} value={at}>
                    {address}
                  </option>
                ))}
              </select>
            </Labelled>
          )}
        </div>
        {view.isGuest &&
          GUEST_FIELDS.map(([field, label, autoComplete]) => (
            <Labelled key={field} label={label} problem={problems[field]}>
              <input
                name={field}
                autoComplete={autoComplete}
                aria-invalid={problems[field] !== undefined}
                className={SHOP_INPUT}
              />
            </Labelled>
          ))}
        {view.isGuest && (
          <Labelled label="Country" problem={problems['country']}>
            <select name="country" className={SHOP_INPUT} defaultValue={view.country}>
              {view.countries.map(({ code, name }) => (
                <option key={code} value={code}>
                  {name}
                </option>
              ))}
            </select>
          </Labelled>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-4 pt-6">
        <button type="submit" className="btn btn-primary" disabled={isSending || !isSettled || asked === 0}>
          {asked === 0 ? 'Send the request' : `Ask for a quote on ${asked} ${asked === 1 ? 'item' : 'items'}`}
        </button>
        {problems['all'] && (
          <p role="alert" className="text-error">
            {problems['all']}
          </p>
        )}
      </div>
    </form>
  )
}
