import 'server-only'

import { findNearest } from '@/core/issue/issue'
import { readPriceRule } from '@/core/notation/price-rule-text'
import type { ReadRule } from '@/core/notation/read-rule'
import { readWhat } from '@/core/notation/what-text'
import type { What } from '@/core/predicates/what'
import type { BreaksInput } from '@/core/price/lines/parse-breaks'
import type { Store } from '@/core/store/store'
import { findItem } from './find-item'

const RULES =
  'Type “15 % off base”, “fixed 17.60”, “0.60 off base”, “margin 35 %”, “10 % off Club level”, and “; from 10: 18 %” behind it for a price from 10 on.'

/** A rule of a price line as it was typed, in words or in its short form; or what is wrong with it. */
export function readLineRule(store: Store, typed: string): ReadRule<BreaksInput> {
  const read = readPriceRule(store, typed)
  if (read.ok) return read
  if (read.list !== null) {
    const names = [...store['price-list'].values()].flatMap(({ code, name }) => [name, code])
    const nearest = findNearest(read.list, names)
    return {
      ok: false,
      problem: `There is no price list “${read.list}”.${nearest ? ` Did you mean ${nearest}?` : ''}`,
    }
  }
  return { ok: false, problem: `“${read.part || typed}” is not a rule. ${RULES}` }
}

/** What a line is for: a product, SKU or category by itself, or anything a picker can choose, as it is typed. */
export function readLineScope(store: Store, typed: string): ReadRule<What> {
  const term = findItem(store, typed)
  if (term) return { ok: true, value: { include: [term], exclude: [] } }
  const read = readWhat(store, typed)
  if (read.ok && read.value.include.length === 0)
    return { ok: false, problem: 'Say what the line is for: a product, a category, or everything.' }
  return read
}
