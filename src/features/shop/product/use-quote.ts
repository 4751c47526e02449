'use client'

import { decimal } from '@/core/decimal/decimal'
import { useEffect, useState } from 'react'
import type { ShopQuote, ShopVariant } from '../frame/shop-view'

/** How long typing must rest before the price follows it, in milliseconds. */
const REST = 120

/** What the shop asks for a quantity; what it said last while it is being asked. */
export function useQuote(variant: ShopVariant, quantity: string, extras: readonly string[]): ShopQuote {
  const first: ShopQuote = { ...variant.price, total: variant.price.own, notes: variant.notes }
  const [quote, setQuote] = useState<ShopQuote>(first)
  const wanted = `sku=${encodeURIComponent(variant.sku)}&quantity=${quantity}${extras.map((code) => `&extra=${encodeURIComponent(code)}`).join('')}`
  const isFirst = extras.length === 0 && decimal(quantity) === '1'
  useEffect(() => {
    if (isFirst) return
    const stop = new AbortController()
    const timer = setTimeout(() => {
      fetch(`/api/shop/price?${wanted}`, { signal: stop.signal })
        .then(async (response) => {
          if (response.ok) setQuote((await response.json()) as ShopQuote)
        })
        .catch(() => undefined)
    }, REST)
    return () => {
      clearTimeout(timer)
      stop.abort()
    }
  }, [wanted, isFirst])
  return isFirst ? first : quote
}
