'use client'

import { EVERYTHING } from '@/core/predicates/what'
import { useWhatSource, useWhoSource } from '@/ui/picker/picker-sources'
import { OfferPicker } from '@/ui/picker/offer/offer-picker'
import { RecordPicker } from '@/ui/picker/records/record-picker'
import { RoundingPicker } from '@/ui/picker/rounding/rounding-picker'
import { RulePicker } from '@/ui/picker/rule/rule-picker'
import { ChoiceStrip } from '@/ui/picker/strips/choice-strip'
import { OwnAmountsStrip } from '@/ui/picker/strips/own-amounts-strip'
import { PairsStrip } from '@/ui/picker/strips/pairs-strip'
import type { StripProps } from '@/ui/picker/strips/strip'
import { ColourStrip } from '@/ui/picker/strips/colour-strip'
import { PictureStrip } from '@/ui/picker/strips/picture-strip'
import { TextStrip } from '@/ui/picker/strips/text-strip'
import { WhatPicker } from '@/ui/picker/what/what-picker'
import { WhenPicker } from '@/ui/picker/when/when-picker'
import { WherePicker } from '@/ui/picker/where/where-picker'
import { WhoPicker } from '@/ui/picker/who/who-picker'
import type { FieldView } from './sheet-view'

interface FieldEditorProps extends StripProps {
  readonly field: FieldView
  /** Of the record, empty for one that is being made. */
  readonly recordId: string
  /** Whether an audience may be nobody, as of a list that only contracts lead to. */
  readonly mayBeEmpty: boolean
}

/** The control of a field, unrolled under the sentence its word is in. */
export function FieldEditor({ field, recordId, mayBeEmpty, ...strip }: FieldEditorProps) {
  const source = useWhatSource()
  const loadWho = useWhoSource()
  const { name, hint, options } = field
  const shared = { ...strip, name, hint }
  switch (field.control) {
    case 'who':
      return (
        <WhoPicker
          {...strip}
          initial={field.who ?? { include: [], exclude: [] }}
          mayBeEmpty={mayBeEmpty}
          load={loadWho}
          onDone={(_who, text) => strip.onDone(text)}
        />
      )
    case 'what':
    case 'assortment':
      // What no scope can say is typed.
      return field.what ? (
        <WhatPicker
          {...strip}
          initial={field.what ?? EVERYTHING}
          source={source}
          onDone={(_what, text) => strip.onDone(text)}
        />
      ) : (
        <TextStrip {...shared} />
      )
    case 'price-rule':
      return (
        <RulePicker
          {...strip}
          mayBeEmpty
          context={{ list: recordId || null, party: null, line: null, what: 'everything' }}
        />
      )
    case 'offer':
      return <OfferPicker {...strip} placeholder={hint} currencies={options.map(({ value }) => value)} />
    case 'when':
      return <WhenPicker {...strip} />
    case 'where':
      return <WherePicker {...strip} initial={field.where ?? { include: [], exclude: [] }} />
    case 'rounding':
      return <RoundingPicker {...strip} />
    case 'records':
      return (
        <RecordPicker {...shared} from={field.chooses?.from ?? 'group'} many={field.chooses?.many ?? false} />
      )
    case 'choice':
      return <ChoiceStrip {...shared} options={options} />
    case 'pairs':
      return <PairsStrip {...shared} heads={PAIR_HEADS[field.field] ?? ['Name', 'Value']} />
    case 'own-amounts':
      return <OwnAmountsStrip {...shared} currencies={options.map(({ value }) => value)} />
    case 'colour':
      return <ColourStrip {...shared} />
    case 'picture':
      return <PictureStrip {...strip} />
    case 'long-text':
      return <TextStrip {...shared} isLong />
    case 'text':
    case 'on-sheet':
      return <TextStrip {...shared} />
  }
}

const PAIR_HEADS: Readonly<Record<string, readonly [string, string]>> = {
  attributes: ['Attribute', 'Value'],
  options: ['Option', 'Value'],
  ownPrices: ['Currency', 'Amount'],
  taxRegistrations: ['Country', 'Number'],
}
