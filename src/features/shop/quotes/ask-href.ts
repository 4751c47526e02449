/** Where a quote is asked for, with lines begun. */
export function askHref(lines: readonly { readonly sku: string; readonly quantity: string }[]): string {
  const fields = new URLSearchParams(lines.map(({ sku, quantity }) => ['line', `${quantity} ${sku}`]))
  return `/shop/quotes/new?${fields}`
}

/** What `askHref` wrote; what is nothing of the kind is left out. */
export function linesAsked(written: readonly string[]): readonly { sku: string; quantity: string }[] {
  return written.flatMap((line) => {
    const space = line.indexOf(' ')
    return space > 0 ? [{ quantity: line.slice(0, space), sku: line.slice(space + 1) }] : []
  })
}
