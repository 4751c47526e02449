import type { BoardPatch, BoardProduct, BoardVariant } from '../board-view'

/** One row of the board: a product's own row, or one of its variants. */
export type BoardRow =
  | { readonly kind: 'product'; readonly product: number; readonly open: boolean; readonly variants: number }
  | { readonly kind: 'variant'; readonly product: number; readonly variant: number; readonly alone: boolean }

/**
 * The rows of the board, from how many variants each product has and which products are closed. A product
 * with a single variant is that variant's row.
 */
export function layOutRows(counts: readonly number[], closed: ReadonlySet<number>): readonly BoardRow[] {
  const rows: BoardRow[] = []
  counts.forEach((variants, product) => {
    const alone = variants === 1
    const open = !closed.has(product)
    if (!alone) rows.push({ kind: 'product', product, open, variants })
    if (!alone && !open) return
    for (let variant = 0; variant < variants; variant += 1)
      rows.push({ kind: 'variant', product, variant, alone })
  })
  return rows
}

/** Blocks of products already read, by their number. */
export type BoardBlocks = ReadonlyMap<number, readonly BoardProduct[]>

/** The blocks with the rows an edit changed. */
export function patchBlocks(
  blocks: BoardBlocks,
  patch: Extract<BoardPatch, { kind: 'variants' }>,
): BoardBlocks {
  const variants = new Map<string, BoardVariant>(patch.variants.map((variant) => [variant.id, variant]))
  const products = new Map(patch.products.map((product) => [product.id, product]))
  const patched = new Map(blocks)
  for (const [block, rows] of blocks) {
    patched.set(
      block,
      rows.map((product) => {
        const base = products.get(product.id)
        const touched = base !== undefined || product.variants.some(({ id }) => variants.has(id))
        if (!touched) return product
        return {
          ...product,
          base: base === undefined ? product.base : base.base,
          liveBase: base === undefined ? product.liveBase : base.liveBase,
          variants: product.variants.map((variant) => variants.get(variant.id) ?? variant),
        }
      }),
    )
  }
  return patched
}
