'use client'

import { NO_ANSWER } from '@/ui/format/no-answer'
import { useFrame } from '@/ui/frame/frame-context'
import { useReady } from '@/ui/frame/use-ready'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import { type ReactNode, useState, useTransition } from 'react'
import type { AssortmentBranch, AssortmentsView } from './load-assortments'
import { type AssortmentEdit, editAssortment } from './save-assortment'
import { recordHref } from '@/ui/frame/record-href'

interface AssortmentsPageProps {
  readonly view: AssortmentsView
  readonly tabs: ReactNode
}

type Edit = (edit: AssortmentEdit, done?: () => void) => void

/** What a channel sells or a contract covers, branch by branch, with how much of each that comes to. */
export function AssortmentsPage({ view, tabs }: AssortmentsPageProps) {
  const { owner, owners, start, single, manyPaths } = view
  const { href } = useFrame()
  const router = useRouter()
  const [isBusy, begin] = useTransition()
  const [problem, setProblem] = useState<string | null>(null)
  const edit: Edit = (change, done) =>
    begin(async () => {
      if (!owner) return
      const wrong = await editAssortment(owner, change, view.asOf).catch(() => NO_ANSWER)
      setProblem(wrong)
      if (wrong !== null) return
      done?.()
      router.refresh()
    })
  const isReady = useReady()
  const disabled = isBusy || !isReady || !view.live
  return (
    <section
      className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8"
      aria-label="Assortments"
      data-ready={isReady}
    >
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-3">
        <h1 className="text-xl leading-7 font-semibold">Access</h1>
        {tabs}
        <p className="w-full text-soft">
          A buyer sees what both the channel and one of their contracts hold. On the tree the nearest setting
          counts.
        </p>
      </header>
      {!owner && <p>There is no channel and no contract yet.</p>}
      {owner && (
        <>
          <p className="flex flex-wrap items-baseline gap-2 pb-3 text-base">
            <select
              aria-label="Whose assortment"
              className="border border-base-300 bg-lifted px-2 py-1 font-semibold"
              // A choice made before the page answers would snap back, and the next edit land on another one.
              disabled={!isReady || isBusy}
              value={`${owner.kind} ${owner.code}`}
              onChange={(event) => {
                const [kind = '', ...code] = event.target.value.split(' ')
                router.push(href(`/assortments?${new URLSearchParams({ of: kind, code: code.join(' ') })}`))
              }}
            >
              {owners.map(({ kind, code, name, isSet }) => (
                <option key={`${kind} ${code}`} value={`${kind} ${code}`}>
                  {name} ({kind}
                  {isSet ? ', has one' : ''})
                </option>
              ))}
            </select>
            starts from
            <select
              aria-label="Starts from"
              className="border border-base-300 bg-lifted px-2 py-1 font-semibold"
              value={start}
              disabled={disabled}
              onChange={(event) =>
                edit({ kind: 'start', start: event.target.value === 'nothing' ? 'nothing' : 'everything' })
              }
            >
              <option value="everything">everything</option>
              <option value="nothing">nothing</option>
            </select>
            and comes to{' '}
            <b data-testid="inside">
              {view.inside} of {view.all}
            </b>{' '}
            variants.
          </p>
          {problem && (
            <p role="alert" className="pb-3 text-error">
              {problem}
            </p>
          )}
          <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_18rem]">
            <Tree branches={view.branches} disabled={disabled} edit={edit} />
            <div>
              <h2 className="font-semibold">Single products and variants</h2>
              {single.length === 0 && <p className="text-soft">None is set by itself.</p>}
              <ul>
                {single.map(({ kind, id, label, holds }) => (
                  <li
                    key={id}
                    className="flex items-baseline justify-between gap-2 border-b border-dotted border-base-300 py-1"
                  >
                    <span>
                      {label} <span className="text-soft">{holds ? 'taken in' : 'left out'}</span>
                    </span>
                    <button
                      type="button"
                      className="text-soft underline underline-offset-2"
                      disabled={disabled}
                      onClick={() =>
                        edit({
                          kind: 'set',
                          term: kind === 'product' ? { kind, product: id } : { kind, variant: id },
                          holds: null,
                        })
                      }
                    >
                      Remove
                    </button>
                  </li>
                ))}
              </ul>
              {view.live && <AddSingle disabled={disabled} edit={edit} />}
              {manyPaths.length > 0 && (
                <>
                  <h2 className="pt-5 font-semibold">In several branches</h2>
                  <p className="text-soft">Products of which one branch is in and another is not.</p>
                  <ul>
                    {manyPaths.map(({ code, name, holds, through }) => (
                      <li key={code} className="border-b border-dotted border-base-300 py-1">
                        <VantageLink href={recordHref('products', code)} className="link-name">
                          {name}
                        </VantageLink>{' '}
                        {holds ? `is in, through ${through || 'its own setting'}` : 'is left out by itself'}
                      </li>
                    ))}
                  </ul>
                </>
              )}
            </div>
          </div>
        </>
      )}
    </section>
  )
}

interface TreeProps {
  readonly branches: readonly AssortmentBranch[]
  readonly disabled: boolean
  readonly edit: Edit
}

function Tree({ branches, disabled, edit }: TreeProps) {
  return (
    <table className="w-full">
      <thead>
        <tr className="border-b border-base-300 text-left text-soft">
          <th className="py-1 font-normal">Branch</th>
          <th className="py-1 font-normal">Set here</th>
          <th className="py-1 text-right font-normal">In</th>
        </tr>
      </thead>
      <tbody>
        {branches.map(({ id, name, depth, own, holds, inside, all }) => (
          <tr key={id} className="border-b border-dotted border-base-300">
            <th
              scope="row"
              className={`py-0.5 text-left ${holds ? 'font-semibold' : 'font-normal text-soft line-through'}`}
            >
              <span style={{ paddingLeft: `${depth * 1.25}rem` }}>{name}</span>
            </th>
            <td>
              <select
                aria-label={`${name} is`}
                className="bg-transparent py-0.5"
                value={own === null ? '' : own ? 'in' : 'out'}
                disabled={disabled}
                onChange={(event) =>
                  edit({
                    kind: 'set',
                    term: { kind: 'category', category: id },
                    holds: event.target.value === '' ? null : event.target.value === 'in',
                  })
                }
              >
                <option value="">as above{own === null ? (holds ? ': in' : ': out') : ''}</option>
                <option value="in">taken in</option>
                <option value="out">left out</option>
              </select>
            </td>
            <td className="py-0.5 text-right tabular-nums">
              {inside === all ? (
                <span className="text-soft">all {all}</span>
              ) : inside === 0 ? (
                <span className="bg-hatched px-1">none of {all}</span>
              ) : (
                <b>
                  {inside} of {all}
                </b>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function AddSingle({ disabled, edit }: { readonly disabled: boolean; readonly edit: Edit }) {
  const [typed, setTyped] = useState('')
  const add = (holds: boolean) => edit({ kind: 'name', typed, holds }, () => setTyped(''))
  return (
    <p className="flex flex-wrap items-baseline gap-2 pt-2">
      <input
        aria-label="Product code or SKU"
        placeholder="Product code or SKU"
        className="w-full border border-base-300 bg-lifted px-2 py-1"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      <button
        type="button"
        className="btn btn-sm"
        disabled={disabled || typed.trim() === ''}
        onClick={() => add(true)}
      >
        Take in
      </button>
      <button
        type="button"
        className="btn btn-sm"
        disabled={disabled || typed.trim() === ''}
        onClick={() => add(false)}
      >
        Leave out
      </button>
    </p>
  )
}
