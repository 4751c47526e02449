import 'server-only'

import { hash, verify } from '@node-rs/argon2'

/** As short as a password may be, and as long: OWASP ASVS 5, 6.2.1 and 6.2.9. */
export const SHORTEST_PASSWORD = 10
export const LONGEST_PASSWORD = 128

/** OWASP's first choice for argon2id: 19 MiB, two passes, one lane. */
const COSTS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const

export function digestPassword(password: string): Promise<string> {
  return hash(password.normalize('NFKC'), COSTS)
}

/** Whether a password is the one of a digest. Errors  `false` for a digest that is none. */
export function isPasswordOf(digest: string, password: string): Promise<boolean> {
  return verify(digest, password.normalize('NFKC')).catch(() => false)
}

/** Passwords everybody tries first, beside what the store and its people are called; with a little more they are no better. */
const COMMON = ['password', 'passwort', '1234567890', 'qwertyuiop', 'letmein', 'iloveyou', 'administrator']

let leaked: Promise<ReadonlySet<string>> | null = null

/** The 49,233 passwords most often found in what was leaked, small: ASVS 5, 6.2.4 asks for 3,000. Read when first needed. */
function leakedPasswords(): Promise<ReadonlySet<string>> {
  return (leaked ??= import('@zxcvbn-ts/language-common').then(
    ({ dictionary }) => new Set(dictionary['passwords-common']),
  ))
}

/** What is wrong with a password somebody wants, whose own words it must not be; `null` when nothing is. */
export async function passwordFault(
  password: string,
  ownWords: readonly string[],
): Promise<'too-short' | 'too-long' | 'easily-guessed' | null> {
  if ([...password].length < SHORTEST_PASSWORD) return 'too-short'
  if ([...password].length > LONGEST_PASSWORD) return 'too-long'
  const plain = password.toLowerCase()
  const guessed = [
    ...COMMON,
    ...ownWords.map((word) => word.toLowerCase()).filter(({ length }) => length > 2),
  ]
  const isGuessed =
    new Set(plain).size < 4 ||
    (await leakedPasswords()).has(plain) ||
    guessed.some((word) => plain.includes(word) && plain.length < word.length + 5)
  return isGuessed ? 'easily-guessed' : null
}
