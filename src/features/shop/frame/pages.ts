import type { ShopPages } from './shop-view'

/** The part of a list that is on one page; a page that is not there becomes the nearest that is. */
export function pageOf<Item>(
  all: readonly Item[],
  wanted: number,
  size: number,
): ShopPages & { readonly shown: readonly Item[] } {
  const pages = Math.max(1, Math.ceil(all.length / size))
  const page = Math.min(Math.max(1, wanted), pages)
  return { page, pages, total: all.length, shown: all.slice((page - 1) * size, page * size) }
}

/** Reads the number of a page from an address; what is none is the first. */
export function readPage(text: string | null | undefined): number {
  return /^[1-9]\d{0,6}$/.test(text ?? '') ? Number(text) : 1
}
