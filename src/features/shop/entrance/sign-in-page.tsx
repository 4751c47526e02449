import type { AccountGroup } from './load-accounts'
import { signIn } from './shop-actions'

interface SignInPageProps {
  readonly groups: readonly AccountGroup[]
  readonly current: string
  /** Address of the person who is signed in; empty for nobody in particular. */
  readonly currentPerson: string
  /** The page that was wanted. */
  readonly back: string
}

/** A stand-in for signing in: the made-up accounts, each one click away. */
export function SignInPage({ groups, current, currentPerson, back }: SignInPageProps) {
  return (
    <>
      <h1 className="text-3xl leading-9 font-bold tracking-tight">Sign in</h1>
      <p className="pt-2 pb-6 text-base">
        These accounts are made up for trying things out: choose one, no password needed.
      </p>
      <div className="grid gap-x-12 gap-y-6 md:grid-cols-2 lg:grid-cols-3">
        {groups.map(({ name, accounts }) => (
          <section key={name} aria-label={name}>
            <h2 className="border-b border-base-300 pb-1 font-semibold">{name}</h2>
            <ul>
              {accounts.map((account) => (
                <li key={account.as} className="border-b border-base-300">
                  <form action={signIn}>
                    <input type="hidden" name="as" value={account.as} />
                    <input type="hidden" name="back" value={back} />
                    <button
                      type="submit"
                      className="flex w-full justify-between gap-4 px-1 py-2 text-left hover:bg-base-200"
                    >
                      <span className="font-medium">
                        {account.name}
                        {account.as === current && currentPerson === '' && (
                          <span className="text-primary"> · you</span>
                        )}
                      </span>
                      <span className="text-soft">{account.place}</span>
                    </button>
                  </form>
                  {account.people.map(({ name: person, email, about }) => (
                    <form key={email} action={signIn}>
                      <input type="hidden" name="as" value={account.as} />
                      <input type="hidden" name="person" value={email} />
                      <input type="hidden" name="back" value={back} />
                      <button
                        type="submit"
                        className="flex w-full justify-between gap-4 py-1 pr-1 pl-5 text-left hover:bg-base-200"
                      >
                        <span>
                          {person}
                          {email === currentPerson && <span className="text-primary"> · you</span>}
                        </span>
                        <span className="text-soft">{about}</span>
                      </button>
                    </form>
                  ))}
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </>
  )
}
