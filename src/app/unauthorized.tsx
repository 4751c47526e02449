import Link from 'next/link'

export default function Unauthorized() {
  return (
    <main className="mx-auto max-w-prose px-8 py-16 text-sm leading-6">
      <h1 className="pb-2 text-2xl font-semibold">You are not signed in any more</h1>
      <p>Your time was over, or you were signed out somewhere else. Nothing was changed.</p>
      <p className="pt-4">
        <Link href="/sign-in" className="link-name">
          Sign in
        </Link>
      </p>
    </main>
  )
}
