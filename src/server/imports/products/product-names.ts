import type { PriceFamily } from '@/core/catalogue/price-family'
import type { Product, Variant } from '@/core/catalogue/product'
import { findNearest } from '@/core/issue/issue'
import type { Store } from '@/core/store/store'
import type { TaxClass } from '@/core/tax/tax'

/** Finds what a file names in the catalogue, however large both are. */
export class ProductNames {
  private readonly products: ReadonlyMap<string, Product>
  private readonly variants: ReadonlyMap<string, Variant>
  private readonly families: ReadonlyMap<string, PriceFamily>
  private readonly taxClasses: ReadonlyMap<string, TaxClass>
  private readonly byProduct = new Map<string, Variant[]>()

  constructor(private readonly store: Store) {
    this.products = new Map([...store.product.values()].map((each) => [each.code.toLowerCase(), each]))
    this.variants = new Map([...store.variant.values()].map((each) => [each.sku.toLowerCase(), each]))
    this.families = byNameAndCode(store['price-family'].values())
    this.taxClasses = byNameAndCode(store['tax-class'].values())
    for (const variant of store.variant.values()) {
      const known = this.byProduct.get(variant.product)
      if (known) known.push(variant)
      else this.byProduct.set(variant.product, [variant])
    }
  }

  product(code: string): Product | null {
    return this.products.get(code.toLowerCase()) ?? null
  }

  variant(sku: string): Variant | null {
    return this.variants.get(sku.toLowerCase()) ?? null
  }

  productOf(variant: Variant): Product | null {
    return this.store.product.get(variant.product) ?? null
  }

  /** In the order of their product. */
  variantsOf(product: string): readonly Variant[] {
    return [...(this.byProduct.get(product) ?? [])].sort((left, right) => left.position - right.position)
  }

  family(text: string): PriceFamily | null {
    return this.families.get(text.toLowerCase()) ?? null
  }

  nearestFamily(text: string): string | null {
    return findNearest(
      text,
      [...this.store['price-family'].values()].map(({ name }) => name),
    )
  }

  familyName(id: string | null): string {
    return id === null ? '' : (this.store['price-family'].get(id)?.name ?? id)
  }

  taxClass(text: string): TaxClass | null {
    return this.taxClasses.get(text.toLowerCase()) ?? null
  }

  nearestTaxClass(text: string): string | null {
    return findNearest(
      text,
      [...this.store['tax-class'].values()].map(({ name }) => name),
    )
  }

  taxClassName(id: string | null): string {
    return id === null ? '' : (this.store['tax-class'].get(id)?.name ?? id)
  }

  nearestSku(text: string): string | null {
    return findNearest(
      text,
      [...this.store.variant.values()].map(({ sku }) => sku),
    )
  }

  nearestProduct(text: string): string | null {
    return findNearest(
      text,
      [...this.store.product.values()].map(({ code }) => code),
    )
  }
}

function byNameAndCode<Named extends { readonly name: string; readonly code: string }>(
  records: Iterable<Named>,
): ReadonlyMap<string, Named> {
  const found = new Map<string, Named>()
  for (const each of records) {
    found.set(each.name.toLowerCase(), each)
    found.set(each.code.toLowerCase(), each)
  }
  return found
}
