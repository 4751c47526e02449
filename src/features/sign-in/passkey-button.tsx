'use client'

import { NO_ANSWER } from '@/ui/format/no-answer'
import { isPasskeyRefusal, usePasskeys } from '@/ui/frame/use-passkeys'
import { startAuthentication } from '@simplewebauthn/browser'
import { unstable_rethrow } from 'next/navigation'
import { useState, useTransition } from 'react'
import { askForPasskey, signInWithPasskey } from './sign-in-actions'

/** The other way in, where this window can take it. */
export function PasskeyButton({ host, back }: { readonly host: string; readonly back: string }) {
  const passkeys = usePasskeys(host)
  const [problem, setProblem] = useState<string | null>(null)
  const [isBusy, start] = useTransition()
  if (passkeys !== 'work') return null
  const signIn = () =>
    start(async () => {
      setProblem(null)
      try {
        const signed = await startAuthentication({ optionsJSON: await askForPasskey() })
        setProblem((await signInWithPasskey(signed, back)).problem)
      } catch (error) {
        unstable_rethrow(error)
        setProblem(
          isPasskeyRefusal(error)
            ? 'No passkey was given. Try again, or sign in with your password.'
            : NO_ANSWER,
        )
      }
    })
  return (
    <div className="mt-6 border-t border-base-300 pt-5">
      <button type="button" className="btn" disabled={isBusy} onClick={signIn}>
        Sign in with a passkey
      </button>
      {problem && (
        <p role="alert" className="pt-2 text-error">
          {problem}
        </p>
      )}
    </div>
  )
}
