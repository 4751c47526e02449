// `npm run bench:foresight`: what drafts, impact and findings cost on a large store, as ratios in one run.
import { layOver } from '@/core/drafts/lay-over'
import { prepare, refresh } from '@/core/engine/prepare'
import { findFindings } from '@/core/finding/find-findings'
import { type ClassImpact } from '@/core/impact/class-impact'
import { buyerClasses } from '@/core/impact/buyer-classes'
import { findImpact } from '@/core/impact/impact'
import { decimal } from '@/core/decimal/decimal'
import { atOnce } from '@/core/steps/steps'
import { applyChanges, type Change, type Store } from '@/core/store/store'
import { largeStore } from './large-store'

const SIZE = { variants: 100_000, lists: 1_000, linesPerList: 1_000, accounts: 200 }
const AT = Date.parse('2027-03-15T12:00:00Z')

/** The best of some runs, in milliseconds. */
function best<Result>(runs: number, act: () => Result): { readonly time: number; readonly result: Result } {
  let time = Number.POSITIVE_INFINITY
  let result!: Result
  for (let run = 0; run < runs; run += 1) {
    const start = performance.now()
    result = act()
    time = Math.min(time, performance.now() - start)
  }
  return { time, result }
}

const say = (what: string, value: string) => console.log(`${what.padEnd(74)} ${value}`)

const store = largeStore(SIZE)
const { time: preparing, result: prepared } = best(3, () => prepare(store))
say('prepare', `${preparing.toFixed(0)} ms`)

const after = (changes: readonly Change[]) => {
  const next = applyChanges(store, changes)
  return refresh(prepared, next, changes)
}
const impact = (to: typeof prepared, changes: readonly Change[] | null): readonly ClassImpact[] =>
  atOnce(findImpact({ before: prepared, after: to, at: AT, channel: null }, changes))

// One line of one list, for one variant.
const line = [...store['price-line'].values()].find(
  ({ breaks }) => breaks[0]?.method.kind === 'fixed',
) as NonNullable<ReturnType<Store['price-line']['get']>>
const oneLine: readonly Change[] = [
  {
    kind: 'price-line',
    id: line.id,
    before: line,
    after: {
      ...line,
      breaks: line.breaks.map((each) =>
        each.method.kind === 'fixed' ? { ...each, method: { kind: 'fixed', amount: decimal(3) } } : each,
      ),
    },
  },
]
// A percentage for a whole branch in one list.
// One that is not the whole catalogue: the last one has no others below it.
const category = [...store.category.values()].at(-1)
const branch: readonly Change[] = [
  {
    kind: 'price-line',
    id: 'bench-branch',
    before: null,
    after: {
      ...line,
      id: 'bench-branch',
      position: 99_999,
      scope: {
        include: [{ kind: 'category', category: category?.id ?? '', descendants: true }],
        exclude: [],
      },
      breaks: [
        { from: decimal(0), method: { kind: 'percent', percent: decimal(-7), reference: { kind: 'base' } } },
      ],
    },
  },
]
const afterLine = after(oneLine)
const afterBranch = after(branch)
const classes = atOnce(buyerClasses({ before: prepared, after: prepared, at: AT, channel: null }, false))
say('classes of buyers', String(classes.length))

const first = best(1, () => impact(afterLine, null))
const everything = best(3, () => impact(afterLine, null))
const cells = classes.length * SIZE.variants
const pass = best(5, () => {
  const [source, target] = [new Float64Array(cells).fill(1990), new Float64Array(cells)]
  const start = performance.now()
  for (let at = 0; at < cells; at += 1) target[at] = Math.floor((source[at] as number) * 0.88 + 0.5)
  return performance.now() - start
}).result
say(
  'everything compared, before and after, all classes × variants × 3 quantities',
  `${everything.time.toFixed(0)} ms, the first time ${first.time.toFixed(0)} ms`,
)
say('… in passes of one multiplication a cell', (everything.time / pass).toFixed(1))

const ofLine = best(50, () => impact(afterLine, oneLine))
say(
  'impact of one line',
  `${ofLine.time.toFixed(2)} ms, ${(everything.time / ofLine.time).toFixed(0)} × cheaper`,
)
const ofBranch = best(5, () => impact(afterBranch, branch))
say(
  'impact of a percentage for a branch',
  `${ofBranch.time.toFixed(2)} ms, ${(everything.time / ofBranch.time).toFixed(0)} × cheaper`,
)

const thousand: readonly Change[] = [...store.variant.values()].slice(0, 1_000).map((variant) => ({
  kind: 'variant',
  id: variant.id,
  before: variant,
  after: { ...variant, basePrice: decimal(12) },
}))
const opening = best(5, () => {
  const laid = atOnce(layOver(thousand, store))
  return refresh(prepared, laid.store, laid.changes)
})
say(
  'a draft of 1,000 changes opened',
  `${opening.time.toFixed(1)} ms, ${(preparing / opening.time).toFixed(0)} × cheaper than prepare`,
)

const found = best(2, () => atOnce(findFindings({ prepared, at: AT })))
say(
  'findings of the whole store',
  `${found.time.toFixed(0)} ms, ${(found.time / everything.time).toFixed(2)} × everything compared`,
)
const group = [...store.group.values()][0] as NonNullable<ReturnType<Store['group']['get']>>
const own = [...store['price-list'].values()].find(({ audience }) => audience.include[0]?.kind === 'account')
const ofOwn = [...store['price-line'].values()].find(({ list }) => list === own?.id) ?? line
const edits: readonly (readonly [string, readonly Change[]])[] = [
  ['a group renamed', [{ kind: 'group', id: group.id, before: group, after: { ...group, name: 'Renamed' } }]],
  [
    'a line of one account',
    [{ kind: 'price-line', id: ofOwn.id, before: ofOwn, after: { ...ofOwn, breaks: line.breaks } }],
  ],
  ['a line for everybody', oneLine],
]
for (const [what, edit] of edits) {
  const edited = after(edit)
  const again = best(3, () => atOnce(findFindings({ prepared: edited, at: AT }, found.result)))
  say(
    `… after an edit: ${what}`,
    `${again.time.toFixed(0)} ms, ${(found.time / again.time).toFixed(1)} × cheaper`,
  )
}
