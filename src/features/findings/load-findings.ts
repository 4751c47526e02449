import 'server-only'

import { isAboutCosts } from '@/core/finding/finding'
import { type BuyerCode, buyerName } from '@/core/buyers/buyer-code'
import { itemName } from '@/core/catalogue/product'
import { type Finding, type FindingCase } from '@/core/finding/finding'
import { worstFirst } from '@/core/finding/find-findings'
import { labelOf } from '@/core/store/references'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import { findingsOf } from '@/server/findings/findings'
import { mutesAt } from '@/server/findings/mutes'
import type { RequestContext } from '@/server/engine/request-context'
import { formatMoney } from '@/ui/format/amount'
import { formatDay, formatTime } from '@/ui/format/instant'
import { recordHref } from '@/ui/frame/record-href'
import { type EditableKind, sectionOf } from '@/sheet/record/sections'
import { findingSentence, FIX_WORDS, placeOf } from './finding-sentences'
import type { CaseRow, FindingRow, FindingsView } from './findings-view'

const MOST_CASES = 60

/** Everything worth a look in what is looked at. */
export async function loadFindings(
  { view, steppe, now, live }: RequestContext,
  shown: FindingsView['shown'],
): Promise<FindingsView> {
  const { store, index } = view.prepared
  const { timeZone } = getSettings(store)
  const findings = worstFirst(await findingsOf(view)).filter(
    ({ code }) => !view.sight?.hidesCosts || !isAboutCosts(code),
  )
  const mutes = await mutesAt(steppe, new Date(now))
  const told = findings.filter(({ key }) => !mutes.has(key))
  const places = new Map<string, number>()
  for (const finding of told) {
    const place = placeOf(finding)
    places.set(place, (places.get(place) ?? 0) + 1)
  }
  const wanted = shown.muted ? findings.filter(({ key }) => mutes.has(key)) : told
  const rows = wanted
    .filter((finding) => shown.place === null || placeOf(finding) === shown.place)
    .map((finding): FindingRow => {
      const muted = mutes.get(finding.key)
      return {
        ...toRow(finding, store, finding.key === shown.open),
        muted: muted
          ? {
              reason: muted.reason,
              until: muted.until ? formatDay(muted.until, timeZone) : '',
              by: muted.author,
            }
          : null,
      }
    })
  return {
    rows,
    places: [...places].map(([place, count]) => ({ place, count })),
    mutedCount: findings.length - told.length,
    all: told.length,
    shown,
    about: `Computed for ${formatTime(new Date(now), timeZone)}, ${index.variantCount} variants`,
    draft: view.draft?.draft.name ?? null,
    live,
  }
}

function toRow(finding: Finding, store: Store, isOpen: boolean): Omit<FindingRow, 'muted'> {
  const { kind, id } = finding.cause
  const record = store[kind].get(id)
  return {
    key: finding.key,
    group: finding.group,
    count: finding.count,
    sentence: findingSentence(finding),
    cause: {
      name: record ? ((record as { readonly name?: string }).name ?? labelOf(kind, record)) : id,
      href: record ? recordHref(sectionOf(kind as EditableKind).path, labelOf(kind, record)) : null,
    },
    place: placeOf(finding),
    fix: finding.isFixable ? (FIX_WORDS[finding.code] ?? '') : '',
    cases: isOpen ? finding.cases.slice(0, MOST_CASES).map((each) => toCase(each, store)) : null,
  }
}

function toCase({ buyer, variant, amounts, currency, fix }: FindingCase, store: Store): CaseRow {
  const record = store.variant.get(variant ?? '')
  const product = store.product.get(record?.product ?? '')
  const money = (name: string) => {
    const amount = amounts[name]
    return amount === undefined ? '' : formatMoney(amount, currency, priceDigitsOf(store, currency))
  }
  const reference =
    buyer === null || buyer.kind === 'guest'
      ? null
      : buyer.kind === 'group'
        ? ({ kind: 'group', group: buyer.id } as const)
        : ({ kind: 'account', account: buyer.id } as const)
  const code = (kind: 'group' | 'account', id: string): BuyerCode =>
    `${kind}:${store[kind].get(id)?.code ?? ''}`
  return {
    who: buyer === null ? '' : reference ? buyerName(store.group, store.account, reference) : 'Guests',
    as: buyer === null ? null : buyer.kind === 'guest' ? 'guest' : code(buyer.kind, buyer.id),
    title: record && product ? itemName(product, record) : '',
    sku: record?.sku ?? '',
    price: money('price') || money('amount'),
    beside: money('cost') || money('usual'),
    fixed: fix.length > 0 ? money('raised') || money('usual') || money('wanted') : '',
  }
}
