'use client'

import type { What } from '@/core/predicates/what'
import { useFrame } from '@/ui/frame/frame-context'
import { useWhatSource } from '@/ui/picker/picker-sources'
import { RulePicker } from '@/ui/picker/rule/rule-picker'
import { Unrolled } from '@/ui/picker/panel/unrolled'
import { WhatPicker } from '@/ui/picker/what/what-picker'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { agreePrice } from '../price-lines/agree-price'
import type { AgreedWith } from '../price-lines/party'

const NOTHING: What = { include: [], exclude: [] }

type Step = { readonly step: 'what' } | { readonly step: 'rule'; readonly what: string }

/** Agrees a price with somebody: what it is for, then its rule; into a list that is theirs alone. */
export function AgreePrice({ party, name }: { readonly party: AgreedWith; readonly name: string }) {
  const [step, setStep] = useState<Step | null>(null)
  const source = useWhatSource()
  const router = useRouter()
  const { pricesChanged } = useFrame()

  async function agree(what: string, rule: string): Promise<string | null> {
    const outcome = await agreePrice(party, what, rule)
    if (!outcome.ok) return outcome.problem
    pricesChanged(outcome.changeSet)
    router.refresh()
    setStep(null)
    return null
  }
  if (!step)
    return (
      <button type="button" className="py-2 link-name" onClick={() => setStep({ step: 'what' })}>
        Agree a price
      </button>
    )
  return (
    <Unrolled className="-mx-6 mt-2">
      {step.step === 'what' ? (
        <WhatPicker
          label={`What a price is agreed for with ${name}`}
          initial={NOTHING}
          source={source}
          onCancel={() => setStep(null)}
          onDone={async (_what, text) => {
            setStep({ step: 'rule', what: text })
            return null
          }}
        />
      ) : (
        <RulePicker
          label={`Rule for ${step.what}`}
          initial="10 % off base"
          context={{ list: null, party, line: null, what: step.what }}
          onCancel={() => setStep(null)}
          onDone={(rule) => agree(step.what, rule)}
        />
      )}
    </Unrolled>
  )
}
