'use client'

import type { Vantage } from '@/core/engine/context/vantage'
import type { What } from '@/core/predicates/what'
import { useFrame } from '@/ui/frame/frame-context'
import { createContext, type ReactNode, use, useMemo } from 'react'
import type { FoundItem, ReadWords, VariantFound, WhatChoices, WhatMatched } from './what/what-choices'
import type { WhatSource } from './what/what-source'
import type { ChoiceSource, RecordChoice, RecordChoices } from './records/record-choices'
import type { ListName, RuleContext, TriedRule } from './rule/rule-choices'
import type { WhereChoices } from './where/where-choices'
import type { WhoChoices } from './who/who-choices'

/** What pickers ask the server, wherever they open. */
export interface PickerSources {
  readonly loadWho: () => Promise<WhoChoices>
  readonly loadWhat: (initial: What) => Promise<WhatChoices>
  readonly findItems: (words: string) => Promise<readonly FoundItem[]>
  readonly findVariants: (words: string) => Promise<readonly VariantFound[]>
  readonly matchScope: (what: What, vantage: Vantage) => Promise<WhatMatched>
  readonly readWords: (words: string) => Promise<ReadWords>
  readonly loadWhere: () => Promise<WhereChoices>
  readonly loadRecords: (from: ChoiceSource) => Promise<RecordChoices>
  /** Makes a record of the kind on the way, with nothing but a name. */
  readonly makeRecord: (from: ChoiceSource, name: string) => Promise<MadeRecord>
  readonly loadLists: () => Promise<readonly ListName[]>
  /** What a rule would do to the items it is for. */
  readonly tryRule: (context: RuleContext, rule: string) => Promise<TriedRule>
  /** The store's IANA time zone, and the present by the server's clock, epoch milliseconds. */
  readonly clock: { readonly timeZone: string; readonly now: number }
}

export type MadeRecord =
  { readonly ok: true; readonly choice: RecordChoice } | { readonly ok: false; readonly problem: string }

const Sources = createContext<PickerSources | null>(null)

/** Gives every sheet below it the server's answers for its pickers. */
export function PickerSourcesProvider({
  children,
  ...sources
}: PickerSources & { readonly children: ReactNode }) {
  return <Sources value={sources}>{children}</Sources>
}

/** Errors  throws outside the merchant's frame. */
function useSources(): PickerSources {
  const sources = use(Sources)
  if (!sources) throw new Error('pickers open inside the merchant’s frame')
  return sources
}

export function useWhoSource(): PickerSources['loadWho'] {
  return useSources().loadWho
}

export function useWhereSource(): PickerSources['loadWhere'] {
  return useSources().loadWhere
}

export function useVariantSource(): PickerSources['findVariants'] {
  return useSources().findVariants
}

export function useRecordSource() {
  const { loadRecords, makeRecord } = useSources()
  return { load: loadRecords, make: makeRecord }
}

export function useRuleSource() {
  const { loadLists, tryRule } = useSources()
  const { vantage } = useFrame()
  return useMemo(
    () => ({
      loadLists,
      tryRule: (context: Omit<RuleContext, 'vantage'>, rule: string) =>
        tryRule({ ...context, vantage }, rule),
    }),
    [loadLists, tryRule, vantage],
  )
}

export function useClock(): PickerSources['clock'] {
  return useSources().clock
}

/** What the picker of a scope asks, as seen from the vantage. */
export function useWhatSource(): WhatSource {
  const { loadWhat, findItems, matchScope, readWords } = useSources()
  const { vantage } = useFrame()
  return useMemo(
    () => ({
      load: loadWhat,
      find: findItems,
      match: (what: What) => matchScope(what, vantage),
      read: readWords,
    }),
    [loadWhat, findItems, matchScope, readWords, vantage],
  )
}
