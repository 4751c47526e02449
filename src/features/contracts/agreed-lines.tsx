'use client'

import { AgreePrice } from '@/sheet/parts/agree-price-button'
import type { AgreedWith } from '@/sheet/price-lines/party'
import { changeAgreedLine } from '@/sheet/price-lines/agree-price'
import { formatPercent } from '@/ui/format/amount'
import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { RulePicker } from '@/ui/picker/rule/rule-picker'
import { Unrolled } from '@/ui/picker/panel/unrolled'
import { useRouter } from 'next/navigation'
import { Fragment, type ReactNode, useState } from 'react'
import type { AgreedLine, AgreedList } from './load-contract'

interface AgreedLinesProps {
  readonly party: AgreedWith
  readonly name: string
  readonly lists: readonly AgreedList[]
  readonly live: boolean
  /** Where the record is not saved yet: nothing can be agreed before. */
  readonly isNew: boolean
}

/** What is agreed, line by line, each with what it comes to; a click opens its rule. */
export function AgreedLines({ party, name, lists, live, isNew }: AgreedLinesProps) {
  const [opened, setOpened] = useState<AgreedLine | null>(null)
  const router = useRouter()
  const { pricesChanged } = useFrame()

  async function keep(rule: string): Promise<string | null> {
    if (!opened) return null
    const outcome = await changeAgreedLine(opened.id, rule)
    if (!outcome.ok) return outcome.problem
    pricesChanged(outcome.changeSet)
    router.refresh()
    setOpened(null)
    return null
  }
  const editor = opened && (
    <>
      <RulePicker
        key={opened.id}
        label={`Rule for ${opened.scope}`}
        initial={opened.rule}
        mayBeEmpty
        context={{ list: opened.list, party: null, line: opened.id, what: '' }}
        onCancel={() => setOpened(null)}
        onDone={keep}
      />
      <p className="px-6 py-1 text-left">
        <button type="button" className="text-error hover:underline" onClick={() => void keep('')}>
          Remove this line
        </button>
      </p>
    </>
  )
  const count = lists.reduce((sum, { lines }) => sum + lines.length, 0)
  return (
    <section aria-label="Agreed prices">
      <table className="w-full">
        <thead>
          <tr className="border-b border-base-content text-right align-bottom">
            <th className="py-1 text-left font-semibold">Agreed for</th>
            <th className="py-1 pl-4 text-left font-semibold">Rule</th>
            <th className="w-36 py-1 pl-4 font-semibold">Without it</th>
            <th className="w-36 py-1 pl-4 font-semibold">They pay</th>
            <th className="w-24 py-1 pl-4 font-semibold">Margin, lowest</th>
          </tr>
        </thead>
        <tbody>
          {lists.map((list) => (
            <ListRows
              key={list.id}
              list={list}
              hasTitle={lists.length > 1 || list.otherwise !== ''}
              opened={opened?.id ?? null}
              editor={editor}
              onOpen={live ? setOpened : null}
            />
          ))}
        </tbody>
      </table>
      {count === 0 && (
        <p className="py-2 text-soft">
          {isNew
            ? 'Create it first; then agree its prices here, line by line.'
            : 'Nothing is agreed yet: everything costs them what it would cost without the contract.'}
        </p>
      )}
      {live && !isNew && !opened && <AgreePrice party={party} name={name} />}
    </section>
  )
}

interface ListRowsProps {
  readonly list: AgreedList
  readonly hasTitle: boolean
  readonly opened: string | null
  /** The picker of the opened line. */
  readonly editor: ReactNode
  readonly onOpen: ((line: AgreedLine) => void) | null
}

function ListRows({ list, hasTitle, opened, editor, onOpen }: ListRowsProps) {
  return (
    <>
      {hasTitle && (
        <tr>
          <th colSpan={5} className="pt-3 pb-0.5 text-left text-xs font-normal text-soft">
            <VantageLink href={list.href} className="link-name">
              {list.name}
            </VantageLink>{' '}
            {list.about}
          </th>
        </tr>
      )}
      {list.lines.map((line) => {
        const isLow = line.margin !== null && Number(line.margin) < 15
        return (
          <Fragment key={line.id}>
            <tr className={`border-b border-base-300 text-right ${line.id === opened ? 'bg-chosen' : ''}`}>
              <td className="py-1 text-left">
                {line.scope} <span className="text-xs text-soft">{line.variants}</span>
                {line.when && <span className="block text-xs text-soft">{line.when}</span>}
              </td>
              <td className="py-1 pl-4 text-left">
                {onOpen ? (
                  <button
                    type="button"
                    className="word text-left !whitespace-normal"
                    aria-label={`Rule for ${line.scope}: ${line.ruleWords}. Change`}
                    onClick={() => onOpen(line)}
                  >
                    {line.ruleWords}
                  </button>
                ) : (
                  line.ruleWords
                )}
              </td>
              <td className="pl-4 text-soft">{line.without || '–'}</td>
              <td className="pl-4 font-semibold">{line.pays || '–'}</td>
              <td
                className={`pl-4 ${line.isBelowCost ? 'font-semibold text-error' : isLow ? 'font-semibold text-accent' : ''}`}
              >
                {line.margin === null ? '–' : formatPercent(line.margin)}
              </td>
            </tr>
            {line.id === opened && (
              <tr>
                <td colSpan={5}>
                  <Unrolled className="-mx-6">{editor}</Unrolled>
                </td>
              </tr>
            )}
          </Fragment>
        )
      })}
      {list.otherwise && (
        <tr className="border-b border-base-300">
          <td className="py-1 text-soft">All other items</td>
          <td className="py-1 pl-4">{list.otherwise}</td>
          <td colSpan={3} />
        </tr>
      )}
    </>
  )
}
