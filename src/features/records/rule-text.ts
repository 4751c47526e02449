import 'server-only'

import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { decimal, parseDecimal } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import type { RoundingRule } from '@/core/decimal/rounding'
import { findNearest } from '@/core/issue/issue'
import type { RoundingDraft } from '@/core/issue/parse-rounding'
import type { What, WhatTerm } from '@/core/predicates/what'
import type { Where, WhereTerm } from '@/core/predicates/where'
import type { Who, WhoTerm } from '@/core/predicates/who'
import type { Store } from '@/core/store/store'
import { isDeepStrictEqual } from 'node:util'

/** What was typed for a rule, or the part of it that means nothing and the nearest thing that does. */
export type ReadRule<Value> =
  { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly problem: string }

interface Terms<Term> {
  readonly include: readonly Term[]
  readonly exclude: readonly Term[]
}

/** Words between commas, those behind "not" left out: "Frames, Jars, not FR-BR-PF". */
function readTerms<Term>(
  text: string,
  read: (word: string) => Term | null,
  known: () => readonly string[],
): ReadRule<Terms<Term>> {
  const include: Term[] = []
  const exclude: Term[] = []
  for (const part of text.split(',').map((each) => each.trim())) {
    if (part === '') continue
    const isLeftOut = /^not\s+/i.test(part)
    const word = part.replace(/^not\s+/i, '')
    const term = read(word)
    if (term === null) {
      const nearest = findNearest(word, known())
      return {
        ok: false,
        problem: `There is no “${word}” here.${nearest ? ` Did you mean ${nearest}?` : ''}`,
      }
    }
    ;(isLeftOut ? exclude : include).push(term)
  }
  return { ok: true, value: { include, exclude } }
}

/** Each term by the first of its labels that means it and nothing else when it is read again. */
function writeTerms<Term>(
  { include, exclude }: Terms<Term>,
  labels: (term: Term) => readonly string[],
  read: (word: string) => Term | null,
): string {
  const write = (term: Term) => {
    const all = labels(term)
    return all.find((label) => isOneWord(label) && isDeepStrictEqual(read(label), term)) ?? all.at(-1) ?? ''
  }
  return [...include.map(write), ...exclude.map((term) => `not ${write(term)}`)].join(', ')
}

const PLAIN_WHO: Readonly<Record<string, WhoTerm>> = {
  everyone: { kind: 'everyone' },
  guests: { kind: 'guests' },
  'signed in': { kind: 'signed-in' },
  trade: { kind: 'trade' },
}

export function readWho(store: Store, text: string): ReadRule<Who> {
  return readTerms<WhoTerm>(
    text,
    (word) => readBuyer(store, word),
    () => [
      ...Object.keys(PLAIN_WHO),
      ...namesOf(store.group),
      ...namesOf(store.account),
      ...[...store.passcode.values()].map(({ name }) => `passcode ${name}`),
    ],
  )
}

function readBuyer(store: Store, word: string): WhoTerm | null {
  const plain = PLAIN_WHO[word.toLowerCase()]
  if (plain) return plain
  if (word.startsWith('#')) return { kind: 'tag', tag: word.slice(1) }
  const given = /^passcode\s+(.+)$/i.exec(word)?.[1]
  if (given) {
    const passcode = findNamed(store.passcode, given)
    return passcode && { kind: 'passcode', passcode: passcode.id }
  }
  if (word.includes('@')) return { kind: 'email', email: word.toLowerCase() }
  const group = findNamed(store.group, word)
  if (group) return { kind: 'group', group: group.id }
  const account = findNamed(store.account, word)
  return account ? { kind: 'account', account: account.id } : null
}

export function writeWho(store: Store, who: Who): string {
  return writeTerms(
    who,
    (term) => buyerLabels(store, term),
    (word) => readBuyer(store, word),
  )
}

function buyerLabels(store: Store, term: WhoTerm): readonly string[] {
  switch (term.kind) {
    case 'group':
      return labelsOf(store.group, term.group)
    case 'account':
      return labelsOf(store.account, term.account)
    case 'tag':
      return [`#${term.tag}`]
    case 'email':
      return [term.email]
    case 'passcode':
      return labelsOf(store.passcode, term.passcode).map((label) => `passcode ${label}`)
    case 'signed-in':
      return ['signed in']
    default:
      return [term.kind]
  }
}

export function readWhat(store: Store, text: string): ReadRule<What> {
  return readTerms<WhatTerm>(
    text,
    (word) => readItem(store, word),
    () => [
      'everything',
      ...namesOf(store.category),
      ...namesOf(store['price-family']),
      ...namesOf(store.extra),
      ...[...store.product.values()].map(({ code }) => code),
      ...[...store.variant.values()].map(({ sku }) => sku),
    ],
  )
}

function readItem(store: Store, word: string): WhatTerm | null {
  const lower = word.toLowerCase()
  if (lower === 'everything') return { kind: 'everything' }
  if (lower === 'in stock' || lower === 'out of stock')
    return { kind: 'stock', state: lower === 'in stock' ? 'in-stock' : 'out-of-stock' }
  const range = /^base\s+(\d*\.?\d+)?\s*[-–]\s*(\d*\.?\d+)?$/i.exec(word)
  if (range)
    return {
      kind: 'price-range',
      from: range[1] === undefined ? null : parseDecimal(range[1]),
      to: range[2] === undefined ? null : parseDecimal(range[2]),
    }
  const attribute = /^([^=]+)=(.+)$/.exec(word)
  if (attribute?.[1] && attribute[2])
    return { kind: 'attribute', name: attribute[1].trim(), value: attribute[2].trim() }
  const product = findByCode(store.product, word)
  if (product) return { kind: 'product', product: product.id }
  const variant = findBySku(store.variant, word)
  if (variant) return { kind: 'variant', variant: variant.id }
  const category = findNamed(store.category, word)
  if (category) return { kind: 'category', category: category.id, descendants: true }
  const itself = /^only\s+(.+)$/i.exec(word)?.[1]
  const alone = itself === undefined ? null : findNamed(store.category, itself)
  if (alone) return { kind: 'category', category: alone.id, descendants: false }
  const family = findNamed(store['price-family'], word)
  if (family) return { kind: 'family', family: family.id }
  const extra = findNamed(store.extra, word)
  return extra ? { kind: 'extra', extra: extra.id } : null
}

export function writeWhat(store: Store, what: What): string {
  return writeTerms(
    what,
    (term) => itemLabels(store, term),
    (word) => readItem(store, word),
  )
}

function itemLabels(store: Store, term: WhatTerm): readonly string[] {
  switch (term.kind) {
    case 'everything':
      return ['everything']
    case 'category': {
      const labels = labelsOf(store.category, term.category)
      return term.descendants ? labels : labels.map((label) => `only ${label}`)
    }
    case 'family':
      return labelsOf(store['price-family'], term.family)
    case 'attribute':
      return [`${term.name}=${term.value}`]
    case 'price-range':
      return [`base ${term.from ?? ''}–${term.to ?? ''}`]
    case 'stock':
      return [term.state === 'in-stock' ? 'in stock' : 'out of stock']
    case 'product':
      return [store.product.get(term.product)?.code ?? term.product]
    case 'variant':
      return [store.variant.get(term.variant)?.sku ?? term.variant]
    case 'extra':
      return labelsOf(store.extra, term.extra)
  }
}

export function readWhere(store: Store, text: string): ReadRule<Where> {
  return readTerms<WhereTerm>(
    text.trim().toLowerCase() === 'everywhere' ? '' : text,
    (word) => readPlace(store, word),
    () => [...namesOf(store.channel), ...namesOf(store.region), ...channelGroups(store)],
  )
}

function channelGroups(store: Store): readonly string[] {
  return [...new Set([...store.channel.values()].flatMap(({ groups }) => groups))]
}

function readPlace(store: Store, word: string): WhereTerm | null {
  const channel = findNamed(store.channel, word)
  if (channel) return { kind: 'channel', channel: channel.id }
  const region = findNamed(store.region, word)
  if (region) return { kind: 'region', region: region.id }
  const group = channelGroups(store).find((name) => name.toLowerCase() === word.toLowerCase())
  return group === undefined ? null : { kind: 'channel-group', group }
}

export function writeWhere(store: Store, where: Where): string {
  return writeTerms(
    where,
    (term) => placeLabels(store, term),
    (word) => readPlace(store, word),
  )
}

function placeLabels(store: Store, term: WhereTerm): readonly string[] {
  if (term.kind === 'channel') return labelsOf(store.channel, term.channel)
  return term.kind === 'region' ? labelsOf(store.region, term.region) : [term.group]
}

const STEP_MODES = {
  '': 'half-up',
  up: 'up',
  down: 'down',
  even: 'half-even',
  'half-down': 'half-down',
  ceiling: 'ceiling',
  floor: 'floor',
} as const

/** `0.05`, `0.05 up`, `ends .45 .95`, `ends 4.90 9.90 in 10 up`; empty for the smallest unit. */
export function readRounding(text: string): ReadRule<RoundingDraft | null> {
  const typed = text.trim().toLowerCase()
  if (typed === '') return { ok: true, value: null }
  // “.95” and “.49 .99” are how endings are spoken of; “.05” is a step, which divides a whole.
  const spoken = /^\.\d+(?:\s+\.\d+)*$/.test(typed) ? typed.split(/\s+/) : []
  if (spoken.length > 1 || spoken.some((part) => !dividesOne(part)))
    return { ok: true, value: { kind: 'endings', period: '1', endings: spoken, mode: 'nearest' } }
  const step = /^(\d*\.?\d+)\s*(up|down|even|half-down|ceiling|floor)?$/.exec(typed)
  if (step?.[1] !== undefined)
    return {
      ok: true,
      value: { kind: 'step', step: step[1], mode: STEP_MODES[(step[2] ?? '') as keyof typeof STEP_MODES] },
    }
  const ends = /^ends\s+([\d.\s]+?)(?:\s+in\s+(\d+))?(?:\s+(up|down))?$/.exec(typed)
  if (ends?.[1] !== undefined)
    return {
      ok: true,
      value: {
        kind: 'endings',
        period: ends[2] ?? '1',
        endings: ends[1].trim().split(/\s+/),
        mode: (ends[3] as 'up' | 'down' | undefined) ?? 'nearest',
      },
    }
  return {
    ok: false,
    problem: `“${text}” is no rounding. Type 0.05, 0.05 up, ends .95 or ends 4.90 9.90 in 10.`,
  }
}

export function writeRounding(rule: RoundingRule | null): string {
  if (rule === null) return ''
  if (rule.kind === 'step') {
    const mode = Object.entries(STEP_MODES).find(([, value]) => value === rule.mode)?.[0] ?? ''
    return `${rule.step} ${mode}`.trim()
  }
  const period = rule.period === '1' ? '' : ` in ${rule.period}`
  return `ends ${rule.endings.join(' ')}${period}${rule.mode === 'nearest' ? '' : ` ${rule.mode}`}`
}

function dividesOne(step: string): boolean {
  const { numerator, denominator } = toFraction(decimal(step))
  return numerator > 0n && denominator % numerator === 0n
}

interface Named {
  readonly code: string
  readonly name: string
}

/** By name or code, in any case. */
export function findNamed<Item extends Named>(records: ReadonlyMap<string, Item>, word: string): Item | null {
  const byCode = findByCode(records, word)
  if (byCode) return byCode
  for (const record of records.values()) if (record.name.toLowerCase() === word.toLowerCase()) return record
  return null
}

/** Its name, and its code for where the name means something else too. */
function labelsOf(records: ReadonlyMap<string, Named>, id: string): readonly string[] {
  const record = records.get(id)
  return record ? [record.name, record.code] : [id]
}

/** Whether a label is one part of a list between commas, and not one that begins by leaving out. */
function isOneWord(label: string): boolean {
  return !label.includes(',') && label === label.trim() && !/^not\s/i.test(label)
}

/** A record as the merchant names it: by name, or by its code where the name would be read as another. */
export function writeNamed(records: ReadonlyMap<string, Named>, id: string): string {
  const labels = labelsOf(records, id)
  const reads = (label: string) => isOneWord(label) && findNamed(records, label) === records.get(id)
  return labels.find(reads) ?? labels.at(-1) ?? id
}

function namesOf(records: ReadonlyMap<string, Named>): readonly string[] {
  return [...records.values()].flatMap(({ code, name }) => [name, code])
}
