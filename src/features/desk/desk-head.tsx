'use client'

import { useLoaded } from '@/ui/frame/use-loaded'
import { type RefObject, useState } from 'react'
import type { DeskView } from './desk-view'
import type { Desk } from './use-desk'

interface DeskHeadProps {
  readonly desk: Desk
  readonly channels: DeskView['channels']
  /** The word that opens the choice of a buyer. */
  readonly buyerWord: RefObject<HTMLButtonElement | null>
  readonly onChosen: () => void
}

const WORD = '[field-sizing:content] max-w-full bg-transparent word text-base-content'

/** Whom the order is for, from where, how it goes to them and how it is paid, as a sentence. */
export function DeskHead({ desk, channels, buyerWord, onChosen }: DeskHeadProps) {
  const [isChoosing, setChoosing] = useState(false)
  const { typed, buyer, change } = desk
  return (
    <>
      <p className="pt-1 text-base leading-8 text-soft">
        For{' '}
        <button
          ref={buyerWord}
          type="button"
          className="word text-base-content"
          aria-expanded={isChoosing}
          onClick={() => setChoosing(!isChoosing)}
        >
          {buyer.name || 'somebody without an account'}
        </button>
        {buyer.people.length > 0 && (
          <>
            , ordered by{' '}
            <select
              aria-label="Ordered by"
              className={WORD}
              value={typed.person}
              onChange={(event) => change({ person: event.target.value })}
            >
              <option value="">nobody in particular</option>
              {buyer.people.map(({ name, email }) => (
                <option key={email} value={email}>
                  {name}
                </option>
              ))}
            </select>
          </>
        )}
        {channels.length > 1 && (
          <>
            , at the{' '}
            <select
              aria-label="Channel"
              className={WORD}
              value={typed.channel}
              onChange={(event) => change({ channel: event.target.value })}
            >
              {channels.map(({ code, name }, at) => (
                <option key={code} value={at === 0 ? '' : code}>
                  {name.toLowerCase()}
                </option>
              ))}
            </select>
          </>
        )}
        ,{' '}
        <select
          aria-label="Delivery"
          className={WORD}
          value={typed.delivery === 'collect' ? 'collect' : String(typed.address)}
          onChange={(event) =>
            change(
              event.target.value === 'collect'
                ? { delivery: 'collect' }
                : { delivery: 'deliver', address: Number(event.target.value) },
            )
          }
        >
          <option value="collect">taken with them</option>
          {buyer.addresses.map((address, at) => (
            <option key={address} value={at}>
              delivered to {address}
            </option>
          ))}
        </select>
        , paid{' '}
        <select
          aria-label="Payment"
          className={WORD}
          value={buyer.terms === '' ? 'card' : typed.payment}
          onChange={(event) => change({ payment: event.target.value === 'card' ? 'card' : 'terms' })}
        >
          {buyer.terms !== '' && <option value="terms">on account, {buyer.terms}</option>}
          <option value="card">at the counter</option>
        </select>
      </p>
      {isChoosing && (
        <BuyerChoice
          onClose={() => {
            setChoosing(false)
            onChosen()
          }}
          onChoose={(account) => {
            change({ account, person: '', address: 0, payment: account === '' ? 'card' : 'terms' })
            setChoosing(false)
            onChosen()
          }}
        />
      )}
    </>
  )
}

interface BuyerChoiceProps {
  readonly onChoose: (account: string) => void
  readonly onClose: () => void
}

function BuyerChoice({ onChoose, onClose }: BuyerChoiceProps) {
  const [text, setText] = useState('')
  const [at, setAt] = useState(0)
  const { value } = useLoaded<{
    readonly words: string
    readonly found: readonly { readonly code: string; readonly name: string; readonly about: string }[]
  }>(`/api/desk/buyers?words=${encodeURIComponent(text.trim())}`, 0)
  const found = [
    ...(value?.found ?? []),
    { code: '', name: 'Somebody without an account', about: 'pays what guests pay' },
  ]
  const chosen = Math.min(at, found.length - 1)
  return (
    <div className="mt-2 max-w-xl bg-chosen/50 p-3" role="dialog" aria-label="Who orders">
      <input
        autoFocus
        aria-label="Name, town or person"
        className="w-full rounded-field border border-base-300 bg-lifted px-2 py-1"
        placeholder="Name, town or person"
        value={text}
        onChange={(event) => {
          setText(event.target.value)
          setAt(0)
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(chosen + 1, found.length - 1))
          else if (event.key === 'ArrowUp') setAt(Math.max(0, chosen - 1))
          else if (event.key === 'Enter') {
            // An answer to what was typed before is none.
            if (value?.words === text.trim()) onChoose(found[chosen]?.code ?? '')
          } else if (event.key === 'Escape') onClose()
          else return
          event.preventDefault()
        }}
      />
      <ul className="pt-1" aria-label="Buyers" data-settled={value?.words === text.trim()}>
        {found.map(({ code, name, about }, place) => (
          <li
            key={code}
            aria-current={place === chosen ? 'true' : undefined}
            className={place === chosen ? 'bg-chosen' : ''}
          >
            <button
              type="button"
              tabIndex={-1}
              className="w-full px-2 py-0.5 text-left"
              onClick={() => onChoose(code)}
            >
              <b className="font-semibold">{name}</b> <span className="text-soft">{about}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}
