import Link from 'next/link'
import { enterPasscode } from '../cart/cart-actions'

interface GatePageProps {
  readonly gate: 'sign-in' | 'passcode' | null
  /** Whether a passcode was just typed that opens nothing. */
  readonly isWrong: boolean
  /** Whether so many wrong ones were typed that nobody is listened to for a while. */
  readonly isToWait: boolean
  /** The page that was wanted. */
  readonly back: string
}

/** Where whoever may not come in yet is led, and where a passcode is typed. */
export function GatePage({ gate, isWrong, isToWait, back }: GatePageProps) {
  return (
    <div className="max-w-md">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">
        {gate === null
          ? 'Enter a passcode'
          : gate === 'sign-in'
            ? 'Please sign in'
            : 'Please enter your passcode'}
      </h1>
      <p className="pb-6 text-base">
        {gate === 'sign-in'
          ? 'This shop is open to customers who are signed in.'
          : 'If you were given a passcode, enter it here. It stays in use until you stop using it.'}
      </p>
      {gate !== 'sign-in' && (
        <form action={enterPasscode} className="flex flex-wrap items-end gap-3 pb-6">
          <input type="hidden" name="back" value={back} />
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
            Enter
          </button>
          {isToWait && (
            <p role="alert" className="w-full text-error">
              Too many passcodes were not valid. Try again in a quarter of an hour.
            </p>
          )}
          {isWrong && (
            <p role="alert" className="w-full text-error">
              This passcode is not valid here today. Check it, or ask whoever gave it to you.
            </p>
          )}
        </form>
      )}
      <Link
        href={`/shop/sign-in?${new URLSearchParams({ back })}`}
        className={gate === 'sign-in' ? 'btn btn-primary' : 'shop-link'}
      >
        Sign in
      </Link>
    </div>
  )
}
