import Link from 'next/link'

export default function Forbidden() {
  return (
    <main className="mx-auto max-w-prose px-8 py-16 text-sm leading-6">
      <h1 className="pb-2 text-2xl font-semibold">Your role does not allow this</h1>
      <p>Whoever looks after the people of the store can change what your role allows.</p>
      <p className="flex gap-5 pt-4">
        <Link href="/board" className="link-name">
          To the board
        </Link>
        <Link href="/me" className="link-name">
          What I may do
        </Link>
      </p>
    </main>
  )
}
