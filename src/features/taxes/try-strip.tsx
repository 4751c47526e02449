'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import type { TaxesView } from './load-taxes'
import { FIELD, PLACE_FIELDS } from './place-fields'

/** One piece of something delivered somewhere: each step of its tax, and why each other tax stays away. */
export function TryStrip({ view: { tried, result } }: { readonly view: TaxesView }) {
  const { href } = useFrame()
  const router = useRouter()
  return (
    <form
      className="mb-5 border-y border-base-300 bg-base-200/60 px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault()
        const form = new FormData(event.currentTarget)
        const fields = new URLSearchParams()
        for (const [name, value] of form)
          if (typeof value === 'string' && value.trim() !== '') fields.set(name, value.trim())
        router.push(href(`/taxes?${fields}`))
      }}
    >
      <p className="flex flex-wrap items-baseline gap-x-2 gap-y-2">
        <b>Try it:</b> one
        <input
          name="sku"
          required
          defaultValue={tried.sku}
          placeholder="SKU"
          aria-label="SKU"
          className={`${FIELD} w-32`}
        />
        delivered to
        {PLACE_FIELDS.map(([name, label, width]) => (
          <input
            key={name}
            name={name}
            defaultValue={tried[name]}
            placeholder={label}
            aria-label={name === 'country' ? 'Country, two letters' : label}
            maxLength={name === 'country' ? 2 : undefined}
            className={`${FIELD} ${width}`}
          />
        ))}
        <button type="submit" className="btn btn-primary btn-sm">
          What tax?
        </button>
      </p>
      {result?.problem && (
        <p role="alert" className="pt-2 text-error">
          {result.problem}
        </p>
      )}
      {result && !result.problem && (
        <div className="max-w-2xl pt-2" role="status">
          <h2 className="font-semibold">{result.title}</h2>
          <ul>
            {result.lines.map(({ parts, outcome }, at) => (
              <li key={at} className="flex justify-between gap-4 border-b border-dotted border-base-300 py-1">
                <span>
                  {parts.map((part, place) => (
                    <span key={place}>
                      {place > 0 && ' '}
                      {part.href ? (
                        <VantageLink href={part.href} className="link-name">
                          {part.text}
                        </VantageLink>
                      ) : (
                        part.text
                      )}
                    </span>
                  ))}
                </span>
                <span className="shrink-0 font-semibold tabular-nums">{outcome}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
    </form>
  )
}
