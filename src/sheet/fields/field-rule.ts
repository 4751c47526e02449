import 'server-only'

import { findNearest } from '@/core/issue/issue'
import type { Store } from '@/core/store/store'
import { findNamed, writeNamed } from '@/core/notation/named-text'
import { typedAmount } from '@/core/decimal/written-amount'
import type { ReadRule } from '@/core/notation/read-rule'
import type { ChoiceSource, NamedKind } from '@/ui/picker/records/record-choices'
import { namesInWords } from '@/ui/format/rule-phrases'
import { countryName, landName } from '@/ui/format/place-names'
import type { ControlKind } from './control-kind'
import { readLand } from '@/core/places/iso-3166'

/** A record as its fields, while a sheet edits one of them. */
export type Fields = Readonly<Record<string, unknown>>

/** How a field of a record is written as text and read from it. */
export interface FieldRule {
  readonly field: string
  readonly name: string
  readonly hint: string
  readonly control: ControlKind
  /** Of a field that names records or places: what is chosen from, and whether one or several. */
  readonly chooses?: { readonly from: ChoiceSource; readonly many: boolean }
  readonly options?: (store: Store) => readonly { readonly value: string; readonly name: string }[]
  readonly write: (record: Fields, store: Store) => string
  /** What the text means, where that is not the text itself. */
  readonly phrase?: (record: Fields, store: Store) => string
  /** The fields of the record that the text changes. */
  readonly read: (text: string, record: Fields, store: Store) => ReadRule<Fields>
}

/** What a field says, as a sentence says it; empty where the field is. */
export function fieldPhrase({ phrase, write }: FieldRule, record: Fields, store: Store): string {
  return phrase?.(record, store) ?? write(record, store)
}

type Words = readonly [field: string, name: string, hint?: string]

/** The parts of a text between separators, blanks around them gone, empty ones left out. */
export function partsOf(text: string, separator: ',' | '\n'): readonly string[] {
  return text
    .split(separator)
    .map((part) => part.trim())
    .filter(Boolean)
}

const taken = (value: Fields): ReadRule<Fields> => ({ ok: true, value })

/** Text as it is typed. */
export function textField([field, name, hint = '']: Words): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'text',
    write: (record) => String(record[field] ?? ''),
    read: (text) => taken({ [field]: text.trim() }),
  }
}

/** Text that may be empty for none. */
export function optionalField([field, name, hint = '']: Words): FieldRule {
  return {
    ...textField([field, name, hint]),
    read: (text) => taken({ [field]: text.trim() === '' ? null : text.trim() }),
  }
}

/** An amount, as it is typed in any country; empty for none. */
export function amountField(words: Words): FieldRule {
  const rule = optionalField(words)
  return { ...rule, read: (text, ...rest) => rule.read(typedAmount(text), ...rest) }
}

export function numberField([field, name, hint = '']: Words): FieldRule {
  return {
    ...textField([field, name, hint]),
    read: (text) => {
      const typed = typedAmount(text)
      if (typed === '') return taken({ [field]: null })
      return /^-?\d+$/.test(typed)
        ? taken({ [field]: Number(typed) })
        : { ok: false, problem: `“${typed}” is not a whole number.` }
    },
  }
}

/** One of a few values. */
export function choiceField(
  [field, name, hint = '']: Words,
  options: readonly (readonly [value: string | boolean | null, name: string])[],
): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'choice',
    options: () => options.map(([value, label]) => ({ value: String(value), name: label })),
    write: (record) => String(record[field]),
    phrase: (record) => options.find(([value]) => value === record[field])?.[1] ?? String(record[field]),
    read: (text) => {
      const chosen = options.find(([value]) => String(value) === text)
      return chosen ? taken({ [field]: chosen[0] }) : { ok: false, problem: `“${text}” cannot be chosen.` }
    },
  }
}

/** Words between commas. */
export function wordsField([field, name, hint = '']: Words, normal = (word: string) => word): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'text',
    write: (record) => (record[field] as readonly string[]).join(', '),
    read: (text) => taken({ [field]: [...new Set(partsOf(text, ',').map(normal))] }),
  }
}

/** Other records by name or code, between commas. */
export function namesField([field, name, hint = '']: Words, kind: NamedKind): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'records',
    chooses: { from: kind, many: true },
    write: (record, store) =>
      (record[field] as readonly string[]).map((id) => writeNamed(store[kind], id)).join(', '),
    phrase: (record, store) =>
      namesInWords((record[field] as readonly string[]).map((id) => store[kind].get(id)?.name ?? id)),
    read: (text, _record, store) => {
      const ids: string[] = []
      for (const word of partsOf(text, ',')) {
        const found = findNamed(store[kind], word)
        if (!found) return unknown(store, kind, word)
        ids.push(found.id)
      }
      return taken({ [field]: [...new Set(ids)] })
    },
  }
}

/** One other record by name or code, or none. */
export function nameField([field, name, hint = '']: Words, kind: NamedKind): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'records',
    chooses: { from: kind, many: false },
    write: (record, store) => {
      const id = record[field] as string | null
      return id === null ? '' : writeNamed(store[kind], id)
    },
    phrase: (record, store) => {
      const id = record[field] as string | null
      return id === null ? '' : (store[kind].get(id)?.name ?? id)
    },
    read: (text, _record, store) => {
      if (text.trim() === '') return taken({ [field]: null })
      const found = findNamed(store[kind], text.trim())
      return found ? taken({ [field]: found.id }) : unknown(store, kind, text.trim())
    },
  }
}

function unknown(store: Store, kind: NamedKind, word: string): ReadRule<Fields> {
  const known = [...store[kind].values()].flatMap(({ name, code }) => [name, code])
  const nearest = findNearest(word, known)
  return { ok: false, problem: `There is no “${word}” here.${nearest ? ` Did you mean ${nearest}?` : ''}` }
}

/** Something of a published list, by its code: a currency, a time zone, a tag. */
export function codeField(
  words: Words,
  from: Extract<ChoiceSource, 'currency' | 'iso-currency' | 'time-zone'>,
  isOptional: boolean,
): FieldRule {
  const rule = isOptional ? optionalField(words) : textField(words)
  return { ...rule, control: 'records', chooses: { from, many: false } }
}

/** A country, by its code or its name. */
export function countryField([field, name, hint = '']: Words): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'records',
    chooses: { from: 'country', many: false },
    write: (record) => String(record[field] ?? ''),
    phrase: (record) => (record[field] ? countryName(String(record[field])) : ''),
    read: (text) => {
      const read = readLand(text)
      if (text.trim() === '') return taken({ [field]: '' })
      return read.ok && !read.code.includes('-') ? taken({ [field]: read.code }) : unknownLand(text, read)
    },
  }
}

/** Countries and parts of countries, by code or name, between commas. */
export function landsField([field, name, hint = '']: Words, from: 'country' | 'land'): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'records',
    chooses: { from, many: true },
    write: (record) => (record[field] as readonly string[]).join(', '),
    phrase: (record) => namesInWords((record[field] as readonly string[]).map(landName)),
    read: (text) => {
      const codes: string[] = []
      for (const part of partsOf(text, ',')) {
        const read = readLand(part)
        if (!read.ok || (from === 'country' && read.code.includes('-'))) return unknownLand(part, read)
        codes.push(read.code)
      }
      return taken({ [field]: [...new Set(codes)] })
    },
  }
}

function unknownLand(text: string, read: ReturnType<typeof readLand>): ReadRule<Fields> {
  const nearest = read.ok || read.nearest === null ? '' : ` Did you mean ${landName(read.nearest)}?`
  return { ok: false, problem: `There is no country “${text.trim()}”.${nearest}` }
}

/** Tags, words of the merchant's own, between commas. */
export function tagsField(words: Words, from: 'tag' | 'channel-group'): FieldRule {
  return {
    ...wordsField(words),
    control: 'records',
    chooses: { from, many: true },
    phrase: (record) => namesInWords(record[words[0]] as readonly string[]),
  }
}

/** Pairs of name and value, one a line: `Timber=Pine`. */
export function pairsField([field, name, hint = '']: Words): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'pairs',
    write: (record) =>
      Object.entries(record[field] as Record<string, string>)
        .map(([key, value]) => `${key}=${value}`)
        .join('\n'),
    read: (text) => {
      const pairs: [string, string][] = []
      for (const line of partsOf(text, '\n')) {
        const at = line.indexOf('=')
        if (at < 1)
          return { ok: false, problem: `“${line}” has no name and value. Write it like Timber=Pine.` }
        pairs.push([line.slice(0, at).trim(), line.slice(at + 1).trim()])
      }
      return taken({ [field]: Object.fromEntries(pairs) })
    },
  }
}

/** A rule of another form, by its own two ways. */
export function ruleField<Value>(
  [field, name, hint = '']: Words,
  write: (store: Store, value: Value) => string,
  read: (store: Store, text: string) => ReadRule<unknown>,
  phrase?: (value: Value, store: Store) => string,
): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'text',
    write: (record, store) => write(store, record[field] as Value),
    ...(phrase && { phrase: (record: Fields, store: Store) => phrase(record[field] as Value, store) }),
    read: (text, _record, store) => {
      const found = read(store, text)
      return found.ok ? taken({ [field]: found.value }) : found
    },
  }
}
