'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { TypedWord } from '@/ui/frame/typed-word'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import type { AuditShown, AuditView } from './load-audit'

/** What happened at the doors: who came in, who was refused, who changed what others may do. */
export function AuditPage({ view }: { readonly view: AuditView }) {
  const { shown, kinds, rows, older } = view
  const { href } = useFrame()
  const router = useRouter()
  const show = (change: Partial<AuditShown>) =>
    router.push(href(auditHref({ ...shown, before: null, ...change })))
  return (
    <section className="flex min-h-0 flex-1 flex-col px-6 pt-3" aria-label="Audit">
      <h1 className="text-xl leading-7 font-semibold">Audit</h1>
      <p className="flex flex-wrap items-baseline gap-1.5 pt-1 pb-3 text-base text-soft">
        Who
        <select
          aria-label="What happened"
          className="cursor-pointer border-b border-primary bg-transparent font-semibold text-base-content"
          value={shown.kind ?? ''}
          onChange={(event) => show({ kind: (event.target.value || null) as AuditShown['kind'] })}
        >
          <option value="">did anything at the doors</option>
          {kinds.map(({ kind, words }) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </select>
        with
        <TypedWord
          key={shown.words}
          label="A name, a place or an address"
          value={shown.words}
          placeholder="any name, place or address"
          width={14}
          onDone={(words) => show({ words })}
        />
      </p>
      <div className="min-h-0 flex-1 overflow-auto pb-6">
        {rows.length === 0 && <p>Nothing like that has happened.</p>}
        <table className="w-full max-w-5xl">
          <caption className="sr-only">What happened, the latest first</caption>
          <thead className="sr-only">
            <tr>
              <th scope="col">When</th>
              <th scope="col">Who did what</th>
              <th scope="col">Where from</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ id, when, who, did, address, isRefusal }) => (
              <tr key={id} className="border-b border-dotted border-base-300 align-baseline">
                <td className="w-0 py-1 pr-6 whitespace-nowrap text-soft">{when}</td>
                <td className={`py-1 pr-6 ${isRefusal ? 'text-error' : ''}`}>
                  <b className="font-semibold">{who}</b> {did}
                </td>
                <td className="py-1 text-right text-soft">{address}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {older !== null && (
          <p className="pt-3">
            <VantageLink href={auditHref({ ...shown, before: older })} className="link-name">
              What happened before
            </VantageLink>
          </p>
        )}
      </div>
    </section>
  )
}

function auditHref({ kind, words, before }: AuditShown): string {
  const fields = new URLSearchParams()
  if (kind !== null) fields.set('kind', kind)
  if (words !== '') fields.set('words', words)
  if (before !== null) fields.set('before', String(before))
  return fields.size === 0 ? '/audit' : `/audit?${fields}`
}
