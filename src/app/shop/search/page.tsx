import { CardGrid } from '@/features/shop/card-grid'
import { searchShop, shopMoney } from '@/features/shop/load-shop'
import { enterShopPage } from '@/features/shop/enter'

export default async function ShopSearch({
  searchParams,
}: {
  readonly searchParams: Promise<{ words?: string }>
}) {
  const words = (await searchParams).words ?? ''
  const visitor = await enterShopPage()
  const cards = searchShop(visitor, words)
  return (
    <>
      <h1 className="pb-6 text-3xl leading-9 font-bold tracking-tight">
        {words.trim() === '' ? 'What are you looking for?' : `${cards.length} found for “${words}”`}
      </h1>
      {cards.length === 0 && words.trim() !== '' && (
        <p>Nothing here is called that. Try a shorter word, or a part of a SKU.</p>
      )}
      <CardGrid cards={cards} money={shopMoney(visitor)} />
    </>
  )
}
