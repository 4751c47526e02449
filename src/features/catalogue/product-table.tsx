import 'server-only'

import type { SoldVariant } from '@/server/engine/sold-variants'
import { SheetTable } from '@/sheet/parts/side-parts'
import { recordHref } from '@/ui/frame/record-href'
import { VantageLink } from '@/ui/frame/vantage-link'

const MOST_SHOWN = 40

/** The products of some variants, and how many variants of each. */
export function ProductTable({
  title,
  items,
}: {
  readonly title: string
  readonly items: readonly SoldVariant[]
}) {
  const products = new Map<string, { readonly item: SoldVariant; count: number }>()
  for (const item of items) {
    const known = products.get(item.product.id)
    if (known) known.count += 1
    else products.set(item.product.id, { item, count: 1 })
  }
  return (
    <>
      <SheetTable
        caption={title}
        heads={[`${title}: ${items.length} variants of ${products.size} products`, 'Variants']}
      >
        {[...products.values()].slice(0, MOST_SHOWN).map(({ item, count }) => (
          <tr key={item.product.id}>
            <td>
              <VantageLink href={recordHref('products', item.product.code)} className="hover:underline">
                {item.product.name}
              </VantageLink>
            </td>
            <td>{count}</td>
          </tr>
        ))}
      </SheetTable>
      {products.size > MOST_SHOWN && <p className="pt-1 text-soft">and {products.size - MOST_SHOWN} more</p>}
    </>
  )
}
