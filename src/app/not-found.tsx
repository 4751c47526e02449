import Link from 'next/link'

export default function NotFound() {
  return (
    <main className="mx-auto max-w-prose px-8 py-16 text-sm leading-6">
      <h1 className="pb-2 text-2xl font-semibold">There is nothing here</h1>
      <p>The address may be mistyped, or what it named is gone.</p>
      <p className="flex gap-5 pt-4">
        <Link href="/board" className="link-name">
          To the board
        </Link>
        <Link href="/shop" className="link-name">
          To the shop
        </Link>
      </p>
    </main>
  )
}
