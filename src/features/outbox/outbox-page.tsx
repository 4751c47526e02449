'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { TypedWord } from '@/ui/frame/typed-word'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { OutboxShown, OutboxView } from './load-outbox'

/** Every mail that went out, and one of them as its receiver reads it. */
export function OutboxPage({ view }: { readonly view: OutboxView }) {
  const { shown, rows, waiting, older, read } = view
  const { href } = useFrame()
  const router = useRouter()
  const show = (words: string) => router.push(href(outboxHref(null, { words, before: null })))
  return (
    <section className="flex min-h-0 flex-1" aria-label="Outbox">
      <div className="flex min-h-0 w-[26rem] shrink-0 flex-col border-r border-base-300 pt-3">
        <div className="px-6">
          <h1 className="inline text-xl leading-7 font-semibold">Outbox</h1>
          <span className="pl-3 text-soft">
            {waiting === 0 ? 'Everything is sent' : `${waiting} still to be sent`}
          </span>
          <p className="flex items-baseline gap-1.5 pt-2 pb-2 text-base text-soft">
            Mails
            <TypedWord
              key={shown.words}
              label="Whom, what or which number"
              value={shown.words}
              placeholder="to anybody, about anything"
              width={12}
              onDone={show}
            />
          </p>
        </div>
        {rows.length === 0 && (
          <p className="px-6 pt-2">
            {shown.words === ''
              ? 'No mail was sent yet. What buyers are told of their orders and quotes stands here, word for word.'
              : 'No mail is like that. '}
            {shown.words !== '' && (
              <button type="button" className="link-name" onClick={() => show('')}>
                Show all mails
              </button>
            )}
          </p>
        )}
        <ul className="min-h-0 flex-1 overflow-auto" aria-label="Mails">
          {rows.map(({ id, when, to, subject }) => (
            <li key={id}>
              <VantageLink
                href={outboxHref(id, shown)}
                aria-current={read?.id === id ? 'true' : undefined}
                className={`block border-b border-dotted border-base-300 px-6 py-1.5 ${read?.id === id ? 'bg-chosen' : 'hover:bg-base-200'}`}
              >
                <b className="block truncate font-semibold">{subject}</b>
                <span className="flex justify-between gap-3 text-xs text-soft">
                  <span className="truncate">{to}</span>
                  <span className="whitespace-nowrap">{when}</span>
                </span>
              </VantageLink>
            </li>
          ))}
          {older !== null && (
            <li className="px-6 py-2">
              <VantageLink href={outboxHref(null, { ...shown, before: older })} className="link-name">
                Older mails
              </VantageLink>
            </li>
          )}
        </ul>
      </div>
      {read ? (
        <Mail key={read.id} mail={read} />
      ) : (
        <p className="px-6 pt-14 text-soft">Choose a mail to read it as whoever got it does.</p>
      )}
    </section>
  )
}

function Mail({ mail }: { readonly mail: NonNullable<OutboxView['read']> }) {
  const [isPlain, setPlain] = useState(false)
  const { id, to, when, subject, about, aboutHref, html, plain } = mail
  return (
    <article className="flex min-h-0 min-w-0 flex-1 flex-col px-6 pt-3 pb-4" aria-label={subject}>
      <h2 className="text-lg leading-7 font-semibold">{subject}</h2>
      <p className="flex flex-wrap gap-x-4 pb-3 text-soft">
        <span>
          to <b className="text-base-content">{to}</b>
        </span>
        <span>{when}</span>
        {aboutHref && (
          <VantageLink href={aboutHref} className="link-name">
            {about}
          </VantageLink>
        )}
        <button type="button" className="link-name" onClick={() => setPlain(!isPlain)}>
          {isPlain ? 'As laid out' : 'As plain text'}
        </button>
        <a className="link-name" href={`/api/mails/${id}`}>
          The file (.eml)
        </a>
      </p>
      {isPlain ? (
        <pre className="min-h-0 flex-1 overflow-auto border border-base-300 bg-lifted p-4 whitespace-pre-wrap">
          {plain}
        </pre>
      ) : (
        // Shut in: nothing in it runs, sends or leads anywhere.
        <iframe
          title={subject}
          sandbox=""
          srcDoc={html}
          className="min-h-0 w-full flex-1 border border-base-300 bg-white"
        />
      )}
    </article>
  )
}

function outboxHref(id: number | null, { words, before }: OutboxShown): string {
  const fields = new URLSearchParams()
  if (words !== '') fields.set('words', words)
  if (before !== null) fields.set('before', String(before))
  const path = id === null ? '/outbox' : `/outbox/${id}`
  return fields.size === 0 ? path : `${path}?${fields}`
}
