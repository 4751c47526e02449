import 'server-only'

import { LIMIT_FIELDS, type LimitField } from '@/core/limits/limit'
import type { ExplainedAnswer } from '@/core/engine/explain/trace'
import type { RuleStanding, RuleStood } from '@/core/engine/explain/explain-terms'
import type { LimitSource } from '@/core/engine/rules/find-limits'
import type { Store } from '@/core/store/store'
import { taxLines } from '@/ui/format/tax-lines'
import { whatPhrase } from '@/ui/format/rule-phrases'
import { EFFECT_WORDS, GATE_WORDS, limitPhrase } from '@/ui/format/terms-phrases'
import type { TraceTerms } from './trace-view'
import type { TracePart } from '@/ui/trace/trace-part'
import { recordHref } from '@/ui/frame/record-href'

type Line = TraceTerms['lines'][number]

/** What a buyer may do, what tax falls on it and how many they may buy: each with what decided and what did not. */
export function termsSections(
  store: Store,
  answer: ExplainedAnswer,
  digits: number,
  productHref: string,
): readonly TraceTerms[] {
  return [
    { title: 'Access', lines: [accessLine(store, answer), ...ruleLines(store, answer)] },
    { title: 'Tax', lines: taxLines(store, answer.tax, answer.currency, digits) },
    { title: 'How many', lines: limitLines(store, answer, productHref) },
  ].filter(({ lines }) => lines.length > 0)
}

function accessLine(store: Store, { access, because }: ExplainedAnswer): Line {
  return { parts: [{ text: canText(access) }, ...becauseParts(store, because)], outcome: '' }
}

function canText({ see, seePrice, buy, quote }: ExplainedAnswer['access']): string {
  if (!see) return 'Cannot see it'
  const price = seePrice ? 'see its price' : 'not its price'
  if (buy) return `Can see it, ${price} and buy it`
  return quote ? `Can see it, ${price}, and ask for a quote` : `Can see it, ${price}, and cannot buy it`
}

function becauseParts(store: Store, because: ExplainedAnswer['because']): readonly TracePart[] {
  switch (because?.code) {
    case undefined:
      return []
    case 'archived':
      return [{ text: '– it is archived' }]
    case 'no-price':
      return []
    case 'gate': {
      const channel = store.channel.get(because.channel)
      return [
        { text: '– the gate of' },
        { text: channel?.name ?? '', href: recordHref('channels', channel?.code ?? '') },
        { text: `says: ${GATE_WORDS[because.gate]}` },
      ]
    }
    case 'review':
      return [{ text: '– a passcode for looking around' }]
    case 'assortment': {
      const { kind, id } = because.of
      const record = kind === 'channel' ? store.channel.get(id) : store.contract.get(id)
      return [
        { text: '– it is not in the assortment of' },
        { text: record?.name ?? id, href: recordHref(`${kind}s`, record?.code ?? '') },
        ...(because.by ? [{ text: `, which leaves out ${assortmentName(store, because.by)}` }] : []),
      ]
    }
    case 'not-offered':
      return [{ text: '– a list of theirs offers only what it lists' }]
    case 'rule': {
      const rule = store['access-rule'].get(because.rule)
      return [
        { text: '–' },
        { text: rule?.name ?? because.rule, href: recordHref('access-rules', rule?.code ?? '') },
        { text: `says so for ${whatPhrase(because.scope, store)}` },
      ]
    }
  }
}

function assortmentName(
  store: Store,
  by: NonNullable<Extract<ExplainedAnswer['because'], { code: 'assortment' }>['by']>,
): string {
  switch (by.kind) {
    case 'category':
      return store.category.get(by.category)?.name ?? by.category
    case 'product':
      return store.product.get(by.product)?.name ?? by.product
    case 'variant':
      return store.variant.get(by.variant)?.sku ?? by.variant
  }
}

const STANDING: Readonly<Record<RuleStanding, string>> = {
  decides: 'counts',
  weaker: 'a nearer one counts',
  off: 'is off',
  archived: 'is archived',
  'not-for-buyer': 'is not for them',
  'not-here': 'is for another place',
  'not-now': 'is for another time',
  'outside-scope': 'is for other things',
}

/** Rules that are for this and lost, or would be for this for somebody else; those for other things are silent. */
function ruleLines(store: Store, { accessRules }: ExplainedAnswer): readonly Line[] {
  return accessRules.filter(isTelling).map(({ rule, standing }) => {
    const record = store['access-rule'].get(rule)
    return {
      parts: [
        { text: record?.name ?? rule, href: recordHref('access-rules', record?.code ?? '') },
        { text: record ? `(${EFFECT_WORDS[record.effect]})` : '' },
      ],
      outcome: STANDING[standing],
    }
  })
}

function isTelling({ standing }: RuleStood): boolean {
  return standing !== 'outside-scope' && standing !== 'decides'
}

const FIELD_WORDS: Readonly<Record<LimitField, string>> = {
  minimum: 'At least',
  maximum: 'At most',
  multiple: 'In multiples of',
  first: 'First quantity',
  values: 'Only',
}

function limitLines(
  store: Store,
  { limits: { limits, setBy, together }, limitRules }: ExplainedAnswer,
  productHref: string,
): readonly Line[] {
  const set = LIMIT_FIELDS.flatMap((field): readonly Line[] => {
    const source = setBy[field]
    const value = limits[field]
    if (!source || value === null) return []
    const text = typeof value === 'string' ? value : value.map(({ quantity }) => quantity).join(', ')
    return [{ parts: [{ text: FIELD_WORDS[field] }, sourcePart(store, source, productHref)], outcome: text }]
  })
  const counted = together.map((rule) => ({
    parts: [{ text: rule.name, href: recordHref('limits', rule.code) }],
    outcome: limitPhrase(rule),
  }))
  const lost = limitRules.filter(isTelling).map(({ rule, standing }) => {
    const record = store.limit.get(rule)
    return {
      parts: [{ text: record?.name ?? rule, href: recordHref('limits', record?.code ?? '') }],
      outcome: STANDING[standing],
    }
  })
  return [...set, ...counted, ...lost]
}

function sourcePart(store: Store, source: LimitSource, productHref: string): TracePart {
  if (source.kind !== 'rule') return { text: `(its ${source.kind})`, href: productHref }
  const rule = store.limit.get(source.rule)
  return { text: `(${rule?.name ?? source.rule})`, href: recordHref('limits', rule?.code ?? '') }
}
