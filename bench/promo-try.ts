import { priceCart } from '@/core/cart/price-cart'
import { decimal } from '@/core/decimal/decimal'
import { prepare, refresh } from '@/core/engine/prepare'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { applyChanges, type Change } from '@/core/store/store'
import { largeStore, numbers } from './large-store'
const base = prepare(largeStore({ variants: 100_000, lists: 1_000, accounts: 200, linesPerList: 1_000 }))
const branches = [...base.store.category.keys()]
const AT = Date.parse('2026-11-30T10:00:00Z')
const money = (a: string) => ({ amount: decimal(a), own: {} })
const values: any[] = []
for (let i = 0; i < 100; i++) {
  values.push(i < 20 ? { kind: 'set', parts: [{ count: 3, scope: null }], saving: i % 2 ? { kind: 'cheapest-free', count: 1 } : { kind: 'percent', percent: decimal('10') } }
    : i < 50 ? { kind: 'item-price', saving: { kind: 'percent', percent: decimal('5') }, closes: i % 2 === 0 }
    : i < 80 ? { kind: 'by-quantity', from: decimal('5'), applies: 'all', saving: { kind: 'percent', percent: decimal('5') } }
    : i < 90 ? { kind: 'free-goods', brackets: [{ from: 12, free: 1 }], gift: 'bought', repeats: true }
    : { kind: 'order', brackets: [{ from: money('100'), saving: { kind: 'percent', percent: decimal('2') } }] })
}
const changes: Change[] = values.map((value, at) => ({ kind: 'promotion', id: `q${at}`, before: null, after: { ...RECORD_DEFAULTS.promotion, id: `q${at}`, code: `q${at}`, name: `q${at}`, state: 'on', rank: 1 + (at % 7), value, scope: { include: [{ kind: 'category', category: branches[(at * 7) % branches.length]!, descendants: true }], exclude: [] } } }) as any)
const promoted = refresh(base, applyChanges(base.store, changes), changes)
const pick = numbers(11)
const { variantCount, items } = base.index
const lines = Array.from({ length: 200 }, () => ({ variant: items[pick(variantCount)] as string, quantity: decimal(1 + pick(20)), extras: [] }))
const q = { ...buyerContext({ kind: 'account', account: 'a7' }, AT), lines, past: [] }
for (const [n, p] of [['plain', base], ['promoted', promoted], ['plain', base], ['promoted', promoted]] as const) {
  for (let i = 0; i < 20; i++) priceCart(p, q)
  const s = performance.now(); for (let i = 0; i < 30; i++) priceCart(p, q)
  const r = priceCart(p, q)
  console.log(n, ((performance.now() - s) / 30).toFixed(2), r.ok && r.value.promotions.applied.length)
}
