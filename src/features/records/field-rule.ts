import 'server-only'

import { findNearest } from '@/core/issue/issue'
import type { Store } from '@/core/store/store'
import { findNamed, writeNamed } from '@/core/notation/named-text'
import type { ReadRule } from '@/core/notation/read-rule'

/** A record as its fields, while a sheet edits one of them. */
export type Fields = Readonly<Record<string, unknown>>

/** How a field of a record is written as text and read from it. */
export interface FieldRule {
  readonly field: string
  readonly name: string
  readonly hint: string
  readonly control: 'line' | 'lines' | 'choice' | 'who' | 'what'
  readonly options?: (store: Store) => readonly { readonly value: string; readonly name: string }[]
  readonly write: (record: Fields, store: Store) => string
  /** What the text means, where that is not the text itself. */
  readonly phrase?: (record: Fields, store: Store) => string
  /** The fields of the record that the text changes. */
  readonly read: (text: string, record: Fields, store: Store) => ReadRule<Fields>
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
    control: 'line',
    write: (record) => String(record[field] ?? ''),
    read: (text) => taken({ [field]: text.trim() }),
  }
}

/** Text or amount that may be empty for none. */
export function optionalField([field, name, hint = '']: Words): FieldRule {
  return {
    ...textField([field, name, hint]),
    read: (text) => taken({ [field]: text.trim() === '' ? null : text.trim() }),
  }
}

export function numberField([field, name, hint = '']: Words): FieldRule {
  return {
    ...textField([field, name, hint]),
    read: (text) => {
      const typed = text.trim()
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
    control: 'line',
    write: (record) => (record[field] as readonly string[]).join(', '),
    read: (text) => taken({ [field]: [...new Set(partsOf(text, ',').map(normal))] }),
  }
}

type NamedKind =
  | 'account'
  | 'group'
  | 'category'
  | 'price-family'
  | 'price-list'
  | 'channel'
  | 'region'
  | 'product'
  | 'tax-class'
  | 'tax'

/** Other records by name or code, between commas. */
export function namesField([field, name, hint = '']: Words, kind: NamedKind): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'line',
    write: (record, store) =>
      (record[field] as readonly string[]).map((id) => writeNamed(store[kind], id)).join(', '),
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
    control: 'line',
    write: (record, store) => {
      const id = record[field] as string | null
      return id === null ? '' : writeNamed(store[kind], id)
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

/** Pairs of name and value, one a line: `Timber=Pine`. */
export function pairsField([field, name, hint = '']: Words): FieldRule {
  return {
    field,
    name,
    hint,
    control: 'lines',
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
    control: 'line',
    write: (record, store) => write(store, record[field] as Value),
    ...(phrase && { phrase: (record: Fields, store: Store) => phrase(record[field] as Value, store) }),
    read: (text, _record, store) => {
      const found = read(store, text)
      return found.ok ? taken({ [field]: found.value }) : found
    },
  }
}
