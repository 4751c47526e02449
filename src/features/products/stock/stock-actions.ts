'use server'

import { TEXT } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { findBySku } from '@/core/catalogue/find-by-code'
import { parseCount } from '@/core/catalogue/stock'
import { parseDecimal } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import { currentInstant } from '@/server/clock'
import { isDiskFull } from '@/server/database/disk-room'
import { currentAuthor } from '@/server/session/author'
import { countStock } from '@/server/stock/move-stock'
import { noticeStock } from '@/server/stock/notice-stock'
import { currentView } from '@/server/views/current-view'
import { issueSentence, refusalSentence } from '@/ui/format/refusal-sentence'
import { refresh } from 'next/cache'

/**
 * Writes down a count of a SKU, live at once. `seen` is what was on hand when it was looked at, `typed` what was counted: empty
 * where nobody counts any more. Resolves to what is wrong, or `null`.
 */
export const countVariant = merchantAction(
  'live:edit',
  [TEXT, TEXT.allow(null), TEXT],
  async (sku: string, seen: string | null, typed: string): Promise<string | null> => {
    const { steppe, prepared } = await currentView()
    const variant = findBySku(prepared.store.variant, String(sku))
    if (!variant) return `There is no SKU “${String(sku).slice(0, 100)}” any more.`
    const text = String(typed).trim()
    const parsed = parseCount(variant.sku, text === '' ? null : typedAmount(text))
    if (!parsed.ok) return parsed.issues.map(issueSentence).join(' ')
    if (isDiskFull(steppe)) return refusalSentence({ code: 'disk-full' })
    const count = {
      variant: variant.id,
      seen: seen === null ? null : parseDecimal(String(seen)),
      counted: parsed.value,
    }
    const note = { at: currentInstant(), author: await currentAuthor(), note: `Count of ${variant.sku}` }
    await steppe.database.transaction((transaction) => countStock(transaction, [count], note))
    steppe.sync()
    await noticeStock(steppe, [variant.id])
    refresh()
    return null
  },
)
