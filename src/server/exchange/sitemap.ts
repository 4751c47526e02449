import { XMLBuilder } from 'fast-xml-parser'
import { ownAddress } from '../doors/own-address'

/** As many addresses as one file may hold (sitemaps.org protocol 0.9, from memory). */
const MOST_ADDRESSES = 50_000

const BUILDER = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: '@', format: true })
const NAMESPACE = { '@xmlns': 'http://www.sitemaps.org/schemas/sitemap/0.9' }
const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n'

/**
 * Addresses as a sitemap; of more than one file holds an index of the files, each of which is a `part` from 1 on.
 *
 * Source  sitemaps.org protocol 0.9, from memory
 */
export function sitemap(addresses: readonly string[], part: number): string {
  const parts = Math.ceil(addresses.length / MOST_ADDRESSES)
  if (parts > 1 && !(part >= 1)) {
    const sitemaps = Array.from({ length: parts }, (_, at) => ({
      loc: `${ownAddress()}/shop/sitemap.xml?part=${at + 1}`,
    }))
    return HEAD + BUILDER.build({ sitemapindex: { ...NAMESPACE, sitemap: sitemaps } })
  }
  const from = parts > 1 ? (Math.floor(part) - 1) * MOST_ADDRESSES : 0
  const url = addresses.slice(from, from + MOST_ADDRESSES).map((loc) => ({ loc }))
  return HEAD + BUILDER.build({ urlset: { ...NAMESPACE, url } })
}
