'use client'

import { isEmail } from '@/core/buyers/email'
import { type Who, type WhoTerm, whoTermKey } from '@/core/predicates/who'
import { butNot } from '@/ui/format/rule-phrases'
import { someOf } from '@/ui/format/some-of'
import { type ReactNode, useMemo, useState } from 'react'
import { WhenLoaded } from '../panel/when-loaded'
import { PickerPanel } from '../panel/picker-panel'
import { ChosenTerms } from '../chosen-terms'
import { ChoiceRow, Heading } from '../panel/picker-parts'
import { withoutLast } from '../term-sets'
import { useDone } from '../panel/use-done'
import type { AccountChoice, WhoChoice, WhoChoices } from './who-choices'
import { allChoices, leaveOut, markOf, reachOf, takeIn, whoText, whyOf } from './who-marks'

interface WhoPickerProps {
  /** What the audience is of: "Who the list is for". */
  readonly label: string
  readonly initial: Who
  /** Whether it may be for nobody, as a list that only contracts lead to. */
  readonly mayBeEmpty?: boolean
  /** Everybody there is to choose from, read when the picker opens. */
  readonly load: () => Promise<WhoChoices>
  /** Keeps what was chosen, as terms and as it is typed; resolves to what is wrong, or `null`. */
  readonly onDone: (who: Who, text: string) => Promise<string | null>
  readonly onCancel: () => void
  /** Called with every change, so that the sentence follows. */
  readonly onChange?: (words: string) => void
}

/** Rows of accounts shown at once; typing narrows the rest. */
const MOST_ACCOUNTS = 200

/** Whom a rule is for: unrolled across the sheet, with whom it reaches at its foot. */
export function WhoPicker(props: WhoPickerProps) {
  return (
    <WhenLoaded load={props.load} waiting="Reading accounts and groups …">
      {(choices) => <Chooser {...props} choices={choices} />}
    </WhenLoaded>
  )
}

function Chooser({
  label,
  initial,
  mayBeEmpty = false,
  choices,
  onDone,
  onCancel,
  onChange,
}: WhoPickerProps & { readonly choices: WhoChoices }) {
  const [who, setWho] = useState(initial)
  const [typed, setTyped] = useState('')
  const { problem, setProblem, isBusy, done } = useDone(onDone)
  const [under, setUnder] = useState<WhoChoice | null>(null)
  const [isTradeOnly, setTradeOnly] = useState(false)
  const reach = useMemo(() => reachOf(who, choices), [who, choices])
  const names = useMemo(
    () => new Map(allChoices(choices).map(({ term, name }) => [whoTermKey(term), name])),
    [choices],
  )
  const nameOf = (term: WhoTerm) => names.get(whoTermKey(term)) ?? (term.kind === 'email' ? term.email : '')

  function change(next: Who): void {
    setWho(next)
    setProblem(null)
    onChange?.(sentenceOf(next, nameOf))
  }

  function keep(): void {
    // What is typed and found is meant.
    const found = typed.trim() === '' ? null : findTyped(typed, choices)
    if (typed.trim() !== '' && !found) return setProblem(`No results for “${typed.trim()}”.`)
    const final = found ? (found.isLeftOut ? leaveOut(who, found.term) : takeIn(who, found.term)) : who
    if (final.include.length === 0 && !mayBeEmpty)
      return setProblem('Choose at least one: a group, an account or everyone.')
    if (found) {
      // One word after another can be typed; Enter on an empty field is the end.
      setTyped('')
      return change(final)
    }
    void done(final, whoText(final, choices))
  }

  const isShown = ({ name }: WhoChoice) =>
    name.toLowerCase().includes(
      typed
        .replace(/^not\s+/i, '')
        .trim()
        .toLowerCase(),
    )
  const accounts = choices.accounts.filter(
    (account) =>
      isShown(account) &&
      (!isTradeOnly || choices.groups.some(({ id, isTrade }) => isTrade && account.groups.includes(id))),
  )
  const row = (choice: WhoChoice, about: ReactNode) => (
    <ChoiceRow
      key={whoTermKey(choice.term)}
      name={choice.name}
      mark={markOf(choice.term, who, choices)}
      about={about}
      onTake={() => change(takeIn(who, choice.term))}
      onLeave={() => change(leaveOut(who, choice.term))}
      onUnder={() => setUnder(choice)}
    />
  )
  return (
    <PickerPanel
      label={label}
      problem={problem}
      isBusy={isBusy}
      onDone={keep}
      onCancel={onCancel}
      onRemoveLast={() => change(withoutLast(who))}
      foot={
        <>
          <b>
            Reaches {reach.accounts.length} {reach.accounts.length === 1 ? 'account' : 'accounts'}
          </b>
          {reach.accounts.length > 0 && `: ${someOf(reach.accounts.map(({ name }) => name))}`}
          {reach.guests ? ' · guests too' : ' · not guests'}
        </>
      }
    >
      <ChosenTerms
        title="For"
        chosen={who}
        keyOf={whoTermKey}
        nameOf={nameOf}
        nothingOut="nobody is left out"
        label="Name, group, tag or e-mail"
        placeholder="name, group, tag or e-mail"
        typed={typed}
        onType={setTyped}
        onTake={(term) => change(takeIn(who, term))}
        onLeave={(term) => change(leaveOut(who, term))}
      />
      <div className="grid max-md:max-h-[22rem] max-md:overflow-auto md:grid-cols-[minmax(0,1fr)_minmax(0,1.35fr)_minmax(0,1fr)] md:divide-x md:divide-base-300">
        <div data-column className="px-6 py-2 md:max-h-[22rem] md:overflow-auto">
          <Heading>Kinds</Heading>
          {choices.kinds.filter(isShown).map((choice) => row(choice, countOf(choice, choices)))}
          <Heading>Groups</Heading>
          {choices.groups
            .filter(isShown)
            .map((choice) => row(choice, `${choice.isTrade ? 'trade · ' : ''}${countOf(choice, choices)}`))}
        </div>
        <div data-column className="px-6 py-2 md:max-h-[22rem] md:overflow-auto">
          <p className="flex items-baseline justify-between pb-0.5 text-xs font-semibold text-soft">
            Accounts
            <span className="flex gap-3">
              {([true, false] as const).map((only) => (
                <button
                  key={String(only)}
                  type="button"
                  aria-pressed={isTradeOnly === only}
                  className={
                    isTradeOnly === only ? 'border-b border-base-content text-base-content' : 'text-secondary'
                  }
                  onClick={() => setTradeOnly(only)}
                >
                  {only ? 'trade' : `all ${choices.accounts.length}`}
                </button>
              ))}
            </span>
          </p>
          {byGroup(accounts.slice(0, MOST_ACCOUNTS), choices).map(([group, members]) => (
            <div key={group}>
              <p className="pt-1 text-xs text-soft">{group}</p>
              {members.map((choice) => row(choice, choice.place))}
            </div>
          ))}
          {accounts.length > MOST_ACCOUNTS && (
            <p className="pt-1 text-soft">{accounts.length - MOST_ACCOUNTS} more. Type part of a name.</p>
          )}
          {accounts.length === 0 && <p className="text-soft">No results.</p>}
        </div>
        <div data-column className="px-6 py-2 md:max-h-[22rem] md:overflow-auto">
          <Heading>Tags</Heading>
          {choices.tags.filter(isShown).map((choice) => row(choice, countOf(choice, choices)))}
          {choices.tags.length === 0 && <p className="text-soft">No account has a tag.</p>}
          {choices.passcodes.length > 0 && <Heading>Passcodes</Heading>}
          {choices.passcodes.filter(isShown).map((choice) => row(choice, ''))}
          <Under choice={under} who={who} choices={choices} nameOf={nameOf} />
        </div>
      </div>
    </PickerPanel>
  )
}

const PLAIN: ReadonlySet<WhoTerm['kind']> = new Set(['everyone', 'guests', 'signed-in', 'trade'])

function sentenceOf({ include, exclude }: Who, nameOf: (term: WhoTerm) => string): string {
  const words = (terms: readonly WhoTerm[]) =>
    terms.map((term) => (PLAIN.has(term.kind) ? nameOf(term).toLowerCase() : nameOf(term)))
  return include.length === 0 ? 'nobody yet' : butNot(words(include), words(exclude))
}

/** Accounts under the first of their groups, in the order of the groups. */
function byGroup(
  accounts: readonly AccountChoice[],
  { groups }: WhoChoices,
): readonly (readonly [name: string, members: readonly AccountChoice[]])[] {
  const firstOf = ({ groups: own }: AccountChoice) => groups.find(({ id }) => own.includes(id))
  return [...groups, undefined].flatMap((group) => {
    const members = accounts.filter((account) => firstOf(account) === group)
    return members.length === 0 ? [] : [[group?.name ?? 'In no group', members] as const]
  })
}

/** The choice somebody means by what they typed: by its name, else the only one that holds it; or a new e-mail address. */
function findTyped(
  typed: string,
  choices: WhoChoices,
): { readonly term: WhoTerm; readonly isLeftOut: boolean } | null {
  const isLeftOut = /^(but\s+)?not\s+/i.test(typed.trim())
  const word = typed
    .trim()
    .replace(/^(but\s+)?not\s+/i, '')
    .toLowerCase()
  const all = allChoices(choices)
  const holding = all.filter(({ name }) => name.toLowerCase().includes(word))
  const found =
    all.find(({ name, text }) => name.toLowerCase() === word || text.toLowerCase() === word) ??
    (holding.length > 0 ? holding[0] : undefined)
  if (found) return { term: found.term, isLeftOut }
  return isEmail(word) ? { term: { kind: 'email', email: word }, isLeftOut } : null
}

function countOf({ term }: WhoChoice, choices: WhoChoices): string {
  const { accounts, guests } = reachOf({ include: [term], exclude: [] }, choices)
  if (term.kind === 'guests') return 'not signed in'
  return guests ? `${accounts.length} and guests` : String(accounts.length)
}

interface UnderProps {
  readonly choice: WhoChoice | null
  readonly who: Who
  readonly choices: WhoChoices
  readonly nameOf: (term: WhoTerm) => string
}

/** Why whoever is under the cursor is in, or not. */
function Under({ choice, who, choices, nameOf }: UnderProps) {
  const { term } = choice ?? {}
  const account =
    term?.kind === 'account' ? choices.accounts.find(({ id }) => id === term.account) : undefined
  if (!account) return null
  const groups = choices.groups.filter(({ id }) => account.groups.includes(id)).map(({ name }) => name)
  return (
    <div className="mt-3 border-t border-base-300 pt-1">
      <h2 className="text-xs font-semibold text-soft">Under the cursor</h2>
      <p className="font-semibold">{account.name}</p>
      <p className="text-soft">{[...groups, account.place].join(', ')}</p>
      <p className="text-soft">{whyOf(account, who, choices, nameOf)}</p>
    </div>
  )
}
