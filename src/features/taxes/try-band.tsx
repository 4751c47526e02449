'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { PickerWord } from '@/ui/picker/picker-word'
import { RecordPicker } from '@/ui/picker/records/record-picker'
import { TextStrip } from '@/ui/picker/strips/text-strip'
import { Unrolled } from '@/ui/picker/panel/unrolled'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { TaxesView, TriedTax } from './load-taxes'

interface TryBandProps {
  readonly view: TaxesView
  readonly countryName: string
}

/** One piece delivered somewhere, as a sentence that answers itself. */
export function TryBand({ view, countryName }: TryBandProps) {
  const { tried, result, buyer } = view
  const { href } = useFrame()
  const router = useRouter()
  const [opened, setOpened] = useState<'item' | 'country' | 'state' | 'postcode' | 'city' | null>(null)

  function go(change: Partial<TriedTax>): Promise<null> {
    const fields = new URLSearchParams()
    for (const [name, value] of Object.entries({ ...tried, ...change })) if (value) fields.set(name, value)
    router.push(href(`/taxes?${fields}`))
    setOpened(null)
    return Promise.resolve(null)
  }
  const word = (name: NonNullable<typeof opened>, words: string, label: string) => (
    <PickerWord
      word={words}
      label={label}
      isOpen={opened === name}
      disabled={false}
      onOpen={() => setOpened(name)}
    />
  )
  const soft = (text: string) => <span className="text-soft">{text}</span>
  return (
    <section aria-label="Try it" className="-mx-6 mb-5 bg-base-200 py-3">
      <div className="px-6">
        <h2 className="text-xs font-semibold text-soft">Try it</h2>
        <p className="text-base leading-8">
          {soft('One ')}
          {word('item', result?.title || tried.sku || 'item to choose', 'Item')}
          {soft(' for ')}
          <b>{buyer}</b>
          {soft(' delivered to ')}
          {word('country', countryName || 'their own country', 'Country')}
          {tried.country !== '' && (
            <>
              {soft(', state ')}
              {word('state', tried.state || 'none', 'State')}
              {soft(', postcode ')}
              {word('postcode', tried.postcode || 'any', 'Postcode')}
              {soft(', town ')}
              {word('city', tried.city || 'any', 'Town')}
            </>
          )}
          {result && !result.problem && (
            <>
              {soft(': ')}
              <b role="status">{result.answer}.</b>
            </>
          )}
        </p>
        {result?.problem && (
          <p role="alert" className="text-error">
            {result.problem}
          </p>
        )}
      </div>
      {opened && (
        <Unrolled className="pt-2">
          {opened === 'country' ? (
            <RecordPicker
              label="Country it is delivered to"
              name="Delivered to"
              hint="Empty is the buyer’s own country."
              from="country"
              many={false}
              initial={tried.country}
              onCancel={() => setOpened(null)}
              onDone={(country) => go({ country, state: '', postcode: '', city: '' })}
            />
          ) : opened === 'item' ? (
            <TextStrip
              label="Item to try"
              name="SKU"
              hint="The SKU of a variant, such as FR-BR-PF."
              initial={tried.sku}
              onCancel={() => setOpened(null)}
              onDone={(sku) => go({ sku: sku.trim() })}
            />
          ) : (
            <TextStrip
              key={opened}
              label={`${{ state: 'State', postcode: 'Postcode', city: 'Town' }[opened]} to try`}
              name={{ state: 'State', postcode: 'Postcode', city: 'Town' }[opened]}
              hint={opened === 'state' ? 'Its code, such as CA.' : 'Empty is any.'}
              initial={tried[opened]}
              onCancel={() => setOpened(null)}
              onDone={(text) =>
                go({ [opened]: opened === 'state' ? text.trim().toUpperCase() : text.trim() })
              }
            />
          )}
        </Unrolled>
      )}
    </section>
  )
}
