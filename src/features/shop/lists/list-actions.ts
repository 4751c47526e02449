'use server'

import { FLAG, FORM, TEXT, THING } from '@/server/session/argument-shapes'
import { shopAction } from '@/server/session/permit'
import type { CartLineWanted } from '@/core/cart/cart'
import { goWith } from '@/core/cart/go-with'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { type Decimal, isPositive, parseDecimal } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import { findTextFault } from '@/core/issue/text-fault'
import { currentInstant } from '@/server/clock'
import { getSteppe } from '@/server/engine/steppe'
import { ownerOf, type ShopVisitor } from '@/server/session/shop-session'
import { readCart } from '@/server/shop/cart-store'
import {
  changeList,
  findList,
  type ListChange,
  type ListOwner,
  makeList,
  removeList,
} from '@/server/shop/reorder-lists'
import { redirect } from 'next/navigation'
import { mayBuy, put } from '../cart/put-lines'
import { enterShopPage } from '../entrance/enter'
import { NO_ROOM, withRoom, withRoomOr } from '../frame/with-room'
import { loadResolved } from '../quick/load-resolved'
import { isEmpty, readPasted } from '../quick/quick-rows'

/** What is wrong; `null` where it is done. */
export type ListProblem = string | null

const LONGEST_NAME = 80
const GONE = 'This list was removed, or is not shared any more.'

/** Makes a list, empty, of what lies in the cart, or of what is ordered again and again. */
export const beginList = shopAction([FORM], async (form: FormData): Promise<void> => {
  const visitor = await enterShopPage()
  const owner = ownerOfLists(visitor)
  if (!owner) redirect('/shop/sign-in?back=/shop/lists')
  const name = String(form.get('name') ?? '')
    .trim()
    .slice(0, LONGEST_NAME)
  const steppe = await getSteppe()
  const isCart = form.get('from') === 'cart'
  const lines = isCart
    ? await readCart(steppe, visitor.prepared, visitor.cart)
    : toLines(
        visitor,
        form.getAll('line').map((line) => String(line)),
      )
  const isShared = owner.person === null || form.get('shared') !== 'no'
  const wanted = { name: name === '' || findTextFault(name, 1) ? 'Our list' : name, isShared, lines }
  const by = { author: authorOf(visitor), at: currentInstant() }
  const id = await withRoom(() => makeList(steppe, owner, wanted, by))
  redirect(id === null ? '/shop/lists?many=1' : `/shop/lists/${id}`)
})

/** Sets how many of a line are wanted; nothing, or 0, takes it out. `seen` is what stood there. */
export const setListLine = shopAction(
  [TEXT, THING],
  async (
    id: string,
    {
      sku,
      extras,
      seen,
      typed,
    }: {
      readonly sku: string
      readonly extras: readonly string[]
      readonly seen: string
      readonly typed: string
    },
  ): Promise<ListProblem> => {
    const visitor = await enterShopPage()
    const { store } = visitor.prepared
    const variant = findBySku(store.variant, String(sku))
    if (!variant) return 'This is not sold any more.'
    const text = typedAmount(String(typed))
    const quantity = text === '' ? null : parseDecimal(text)
    const isGone = text === '' || quantity === '0'
    if (!isGone && (quantity === null || !isPositive(quantity)))
      return `“${String(typed).slice(0, 40)}” is not a quantity above zero.`
    const line = {
      variant: variant.id,
      extras: extras.flatMap((code) => findByCode(store.extra, code)?.id ?? []),
    }
    return change(visitor, id, {
      ...{ kind: 'line', line, quantity: isGone ? null : quantity },
      seen: parseDecimal(String(seen)),
    })
  },
)

/** Adds SKUs and quantities as they are typed or pasted. */
export const addToList = shopAction([TEXT, TEXT], async (id: string, text: string): Promise<ListProblem> => {
  const visitor = await enterShopPage()
  const rows = readPasted(String(text).slice(0, 20_000)).filter((row) => !isEmpty(row))
  if (rows.length === 0) return 'Type a SKU, and how many: FR-BR-PF 20.'
  const resolved = await loadResolved(visitor, rows)
  const unknown = rows.filter((_, at) => resolved.rows[at]?.kind === 'unknown').map(({ sku }) => sku)
  const { store } = visitor.prepared
  const lines = rows.flatMap(({ sku, quantity }, at): readonly CartLineWanted[] => {
    const variant = resolved.rows[at]?.kind === 'unknown' ? null : findBySku(store.variant, sku)
    const amount = parseDecimal(quantity)
    return variant && amount && isPositive(amount)
      ? [{ variant: variant.id, quantity: amount, extras: [] }]
      : []
  })
  if (lines.length === 0) return `Nothing here has the SKU ${unknown[0] ?? rows[0]?.sku ?? ''}.`
  const problem = await change(visitor, id, { kind: 'add', lines })
  if (problem !== null || unknown.length === 0) return problem
  return `Nothing here has the SKU ${unknown.slice(0, 3).join(', ')}. The rest was added.`
})

export const renameList = shopAction(
  [TEXT, TEXT, TEXT],
  async (id: string, seen: string, name: string): Promise<ListProblem> => {
    const wanted = String(name).trim()
    if (wanted === '' || wanted.length > LONGEST_NAME || findTextFault(wanted, 1))
      return `A name has 1 to ${LONGEST_NAME} characters.`
    return change(await enterShopPage(), id, { kind: 'rename', name: wanted, seen: String(seen) })
  },
)

export const shareList = shopAction(
  [TEXT, FLAG],
  async (id: string, isShared: boolean): Promise<ListProblem> => {
    return change(await enterShopPage(), id, { kind: 'share', isShared: isShared === true })
  },
)

export const dropList = shopAction([FORM], async (form: FormData): Promise<void> => {
  const visitor = await enterShopPage()
  const owner = ownerOfLists(visitor)
  const steppe = await getSteppe()
  if (owner) await withRoom(() => removeList(steppe, String(form.get('id') ?? ''), owner))
  redirect('/shop/lists')
})

/** Puts lines of a list into the cart, as far as they may be bought; the cart is what comes next. */
export const orderFromList = shopAction(
  [TEXT, THING],
  async (
    id: string,
    wanted: readonly {
      readonly sku: string
      readonly extras: readonly string[]
      readonly quantity: string
    }[],
  ): Promise<ListProblem> => {
    const visitor = await enterShopPage()
    const owner = ownerOfLists(visitor)
    const { database } = await getSteppe()
    const list = owner && (await findList(database, String(id), owner))
    if (!list) return GONE
    const { store } = visitor.prepared
    const lines = wanted
      .slice(0, list.lines.length)
      .flatMap(({ sku, extras, quantity }): readonly CartLineWanted[] => {
        const variant = findBySku(store.variant, String(sku))
        const amount = parseDecimal(typedAmount(String(quantity)))
        if (!variant || !mayBuy(visitor, variant.id) || amount === null || !isPositive(amount)) return []
        const ids = extras.flatMap((code) => findByCode(store.extra, code)?.id ?? [])
        return [
          {
            variant: variant.id,
            quantity: amount,
            extras: goWith(visitor.prepared, variant.id, ids) ? ids : [],
          },
        ]
      })
    if (lines.length === 0) return 'Nothing of this can be ordered now.'
    const isPut = await withRoomOr(
      () => put(visitor, lines).then(() => true),
      () => false,
    )
    if (!isPut) return NO_ROOM
    const left = wanted.length - lines.length
    redirect(left === 0 ? '/shop/cart' : `/shop/cart?left=${left}`)
  },
)

async function change(visitor: ShopVisitor, id: string, wanted: ListChange): Promise<ListProblem> {
  const owner = ownerOfLists(visitor)
  if (!owner) return GONE
  const steppe = await getSteppe()
  const by = { author: authorOf(visitor), at: currentInstant() }
  const outcome = await withRoomOr(
    () => changeList(steppe, String(id), owner, wanted, by),
    () => null,
  )
  if (outcome === null) return NO_ROOM
  if (outcome.ok) return null
  switch (outcome.code) {
    case 'gone':
      return GONE
    case 'changed':
      return `${outcome.by} made it ${outcome.now === '' ? 'gone' : outcome.now} a moment ago. Reload to see the list as it is.`
    case 'too-many':
      return 'A list holds at most 500 items. Make another one.'
  }
}

function ownerOfLists(visitor: ShopVisitor): ListOwner | null {
  const { account } = ownerOf(visitor)
  return account === null ? null : { account, person: visitor.person?.email ?? null }
}

function authorOf({ person, name }: ShopVisitor): string {
  return person?.name ?? name
}

/** "20 FR-BR-PF" as a line; what is nothing of the kind is left out. */
function toLines(visitor: ShopVisitor, written: readonly string[]): readonly CartLineWanted[] {
  const { store } = visitor.prepared
  return written.slice(0, 100).flatMap((line) => {
    const [quantity = '', ...sku] = line.split(' ')
    const variant = findBySku(store.variant, sku.join(' '))
    const amount: Decimal | null = parseDecimal(quantity)
    return variant && mayBuy(visitor, variant.id) && amount && isPositive(amount)
      ? [{ variant: variant.id, quantity: amount, extras: [] }]
      : []
  })
}
