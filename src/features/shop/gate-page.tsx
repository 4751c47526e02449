import Link from 'next/link'
import { enterPasscode } from './cart-actions'

interface GatePageProps {
  readonly gate: 'sign-in' | 'passcode' | null
  /** Name of the passcode that was taken; `null` without one. */
  readonly taken: string | null
  /** Whether a passcode was just typed that opens nothing. */
  readonly isWrong: boolean
}

/** Where whoever may not come in yet is led, and where a passcode is typed. */
export function GatePage({ gate, taken, isWrong }: GatePageProps) {
  return (
    <div className="max-w-md">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">
        {gate === null ? 'Have you been given a passcode?' : 'This shop is for people we know'}
      </h1>
      <p className="pb-6 text-base">
        {gate === 'sign-in'
          ? 'Sign in and you are in.'
          : 'Type the passcode you were given. It stays with this window until you sign out.'}
      </p>
      {taken !== null && (
        <p className="pb-4" role="status">
          “{taken}” is taken.{' '}
          <Link href="/shop" className="underline underline-offset-2">
            Go in
          </Link>
        </p>
      )}
      {gate !== 'sign-in' && (
        <form action={enterPasscode} className="flex flex-wrap items-end gap-3 pb-6">
          <label className="grow">
            <span className="text-soft">Passcode</span>
            <input
              name="word"
              required
              autoComplete="off"
              aria-invalid={isWrong}
              className="w-full border border-base-300 bg-lifted px-3 py-1.5 aria-[invalid=true]:border-error"
            />
          </label>
          <button type="submit" className="btn btn-primary">
            Open
          </button>
          {isWrong && (
            <p role="alert" className="w-full text-error">
              This passcode opens nothing here, or not today. Look at it once more, or ask who gave it to you.
            </p>
          )}
        </form>
      )}
      <Link
        href="/shop/sign-in"
        className={gate === 'sign-in' ? 'btn btn-primary' : 'underline underline-offset-2'}
      >
        Sign in
      </Link>
    </div>
  )
}
