'use client'

import { decimal } from '@/core/decimal/decimal'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import { useFrame } from '@/ui/frame/frame-context'
import { HistorySection } from '@/ui/frame/history-section'
import { useSheet } from '@/ui/frame/use-sheet'
import { VantageLink } from '@/ui/frame/vantage-link'
import { DataGrid, type GridColumn } from '@/ui/grid/data-grid'
import { StepCurve } from '@/ui/chart/step-curve'
import { useCallback, useMemo, useState } from 'react'
import { AddLine } from './add-line'
import { EVERYTHING } from '@/core/predicates/what'
import { WhatPicker } from '@/ui/picker/what/what-picker'
import { useWhatSource } from '@/ui/picker/picker-sources'
import { RulePicker } from '@/ui/picker/rule/rule-picker'
import { Unrolled } from '@/ui/picker/panel/unrolled'
import { WhenPicker } from '@/ui/picker/when/when-picker'
import { CoverageSection } from './coverage-section'
import { addPriceLine, editLineScope, editLineWhen, editPriceLine, undoOnPriceList } from './edit-price-list'
import type { LineEffect, PriceListView } from './price-list-view'

const RULE_COLUMN = 1
const WHEN_COLUMN = 2
const WHEN_HINT =
  'from 2027-03-01 to 2027-05-31; Mon Fri; 17:00-19:00; Sat 10:00-12:00, Sun closed. Empty: whenever the list holds.'
const RULE_HINT =
  '-12% or +5% on base, -0.60 as an amount, 17.60 fixed, m35 margin, -15% @other-list; 10: -18% from ten on.'

function sheetOf({ id, code, revision, vantage }: PriceListView) {
  return { id, code, revision, vantage }
}

/** A line as the sheet shows it by now. */
function lineOf<Line extends { readonly id: string | null }>(
  { lines }: { readonly lines: readonly Line[] },
  line: Line,
): Line {
  return lines.find(({ id }) => id === line.id) ?? line
}

type Opened = { readonly what: Line } | { readonly rule: Line } | { readonly when: Line }

type Line = PriceListView['lines'][number]

/** What each line of a price list does, changed in place. */
export function PriceListLines({ initial }: { readonly initial: PriceListView }) {
  const { view, take } = useSheet(initial)
  const { showTrace, setVantage, vantage } = useFrame()
  const { example } = view
  const [opened, setOpened] = useState<Opened | null>(null)
  const source = useWhatSource()
  const close = () => setOpened(null)
  const kept = (wrong: string | null) => {
    if (wrong === null) close()
    return wrong
  }

  const columns: readonly GridColumn[] = [
    { key: 'for', header: 'For', width: 'minmax(170px, 2.5fr)' },
    { key: 'rule', header: 'Rule', width: 'minmax(206px, 2fr)' },
    { key: 'when', header: 'When', width: 'minmax(76px, 1fr)' },
    { key: 'rounding', header: 'Rounded', width: 'minmax(96px, 1fr)' },
    { key: 'variants', header: 'Variants', width: '66px', align: 'right' },
    { key: 'base', header: `Base, net ${view.currency}`, width: '114px', align: 'right' },
    { key: 'price', header: 'Becomes', width: '116px', align: 'right' },
    { key: 'margin', header: 'Margin', width: '104px', align: 'right' },
  ]
  const rows = useMemo(
    () => [
      ...view.lines.map((line) => ({ ...line, kind: 'line' as const })),
      ...(view.otherwiseEffect ? [defaultRow(view, view.otherwiseEffect)] : []),
    ],
    [view],
  )
  const rowKey = useCallback((row: number) => rows[row]?.id ?? String(row), [rows])

  return (
    <section className="-mx-6 flex flex-col" aria-label={`Lines of ${view.name}`}>
      <p className="flex gap-5 px-6 pb-2">
        <span className="text-soft">
          {view.accounts} {view.accounts === 1 ? 'account' : 'accounts'}
        </span>
        <VantageLink href={`/import?list=${encodeURIComponent(view.code)}`} className="link-name">
          Import prices from a spreadsheet
        </VantageLink>
        {view.hasFixed && (
          <VantageLink
            href={`/reprice?field=${encodeURIComponent(`list:${view.code}`)}`}
            className="link-name"
          >
            Reprice what it fixes
          </VantageLink>
        )}
        {example && example.as !== vantage.as && (
          <button type="button" className="link-name" onClick={() => setVantage({ as: example.as })}>
            Look as {example.name}
          </button>
        )}
      </p>
      {opened && 'what' in opened && (
        <Unrolled>
          <WhatPicker
            key={opened.what.id}
            label="What the line is for"
            initial={opened.what.what}
            source={source}
            onCancel={close}
            onDone={async (_what, text) =>
              kept(await take((now) => editLineScope(sheetOf(now), lineOf(now, opened.what), text)))
            }
          />
        </Unrolled>
      )}
      {opened && 'rule' in opened && (
        <Unrolled>
          <RulePicker
            key={opened.rule.id}
            label={`Rule for ${opened.rule.scope}`}
            initial={opened.rule.ruleSpoken}
            mayBeEmpty
            context={{ list: view.id, party: null, line: opened.rule.id, what: '' }}
            onCancel={close}
            onDone={async (rule) =>
              kept(
                await take((now) => {
                  const { id, rule: seen } = lineOf(now, opened.rule)
                  return editPriceLine(sheetOf(now), { id, rule: seen }, rule)
                }),
              )
            }
          />
        </Unrolled>
      )}
      {opened && 'when' in opened && (
        <Unrolled>
          <WhenPicker
            key={opened.when.id}
            label={`When ${opened.when.scope} holds`}
            initial={opened.when.whenText || 'always'}
            onCancel={close}
            onDone={async (when) =>
              kept(await take((now) => editLineWhen(sheetOf(now), lineOf(now, opened.when), when)))
            }
          />
        </Unrolled>
      )}
      <div
        className="flex flex-col px-4"
        style={{ minHeight: Math.min(480, 62 + 27 * Math.max(1, rows.length)) }}
      >
        <DataGrid
          label={`Lines of ${view.name}`}
          columns={columns}
          rowCount={rows.length}
          rowKey={rowKey}
          rowClass={(row) => (rows[row]?.kind === 'default' ? 'text-soft' : '')}
          cellClass={(row, column) =>
            rows[row]?.kind !== 'line'
              ? ''
              : column === RULE_COLUMN
                ? 'bg-lifted font-semibold'
                : column === WHEN_COLUMN
                  ? 'bg-lifted'
                  : ''
          }
          renderCell={(row, column) => {
            const line = rows[row]
            if (!line) return null
            if (line.kind === 'line' && view.live && column <= WHEN_COLUMN)
              return (
                <button
                  type="button"
                  tabIndex={-1}
                  title={`${[line.scope, line.ruleText, line.when || 'always'][column]}. Click to change`}
                  className="flex w-full min-w-0 items-center text-left hover:underline"
                  onClick={() =>
                    setOpened(
                      column === 0
                        ? { what: line }
                        : column === RULE_COLUMN
                          ? { rule: line }
                          : { when: line },
                    )
                  }
                >
                  <LineCell digits={view.digits} column={columns[column]?.key ?? ''} {...line} />
                </button>
              )
            return <LineCell digits={view.digits} column={columns[column]?.key ?? ''} {...line} />
          }}
          editText={(row, column) => {
            const line = rows[row]
            if (!view.live || line?.kind !== 'line') return null
            return column === RULE_COLUMN ? line.rule : column === WHEN_COLUMN ? line.whenText : null
          }}
          editLabel={(row, column) =>
            column === WHEN_COLUMN ? `When ${rows[row]?.scope} holds` : `New rule for ${rows[row]?.scope}`
          }
          editHint={(_row, column) =>
            column === WHEN_COLUMN ? WHEN_HINT : `${RULE_HINT} Empty takes the line away.`
          }
          onEdit={(row, column, typed) => {
            const line = rows[row]
            if (!line) return Promise.resolve('This line is gone.')
            if (column === WHEN_COLUMN)
              return take((now) => editLineWhen(sheetOf(now), lineOf(now, line), typed))
            return take((now) => {
              const { id, rule } = lineOf(now, line)
              return editPriceLine(sheetOf(now), { id, rule }, typed)
            })
          }}
          onCell={(row, column, asked) => {
            const line = rows[row]
            if (asked && column === 0 && line?.kind === 'line' && view.live) return setOpened({ what: line })
            if (line?.example)
              showTrace(
                { sku: line.example, from: example ? { ...vantage, as: example.as } : null },
                asked || column > WHEN_COLUMN,
              )
          }}
          empty={
            <p className="px-2 py-4 text-soft">
              No lines yet: add the first one below, or set a price for everything in the sentence above.
            </p>
          }
        />
      </div>
      {view.live && (
        // Only one picker is open at a time; a line begun here waits as it is.
        <div hidden={opened !== null}>
          <AddLine
            list={view.id}
            onAdd={(what, rule) => take((now) => addPriceLine(sheetOf(now), what, rule))}
          />
        </div>
      )}
      <CoverageSection coverage={view.coverage} isOn={view.state === 'on'} />
      <HistorySection
        history={view.history}
        onUndo={
          view.live ? (changeSet) => take((now) => undoOnPriceList(sheetOf(now), changeSet)) : undefined
        }
      />
    </section>
  )
}

function defaultRow(view: PriceListView, effect: LineEffect) {
  return {
    kind: 'default' as const,
    id: 'default',
    scope: 'all other items',
    what: EVERYTHING,
    rule: view.otherwise,
    ruleText: view.otherwiseText,
    ruleSpoken: view.otherwiseText,
    when: '',
    whenText: '',
    curve: [],
    rounding: '',
    effect,
    example: null,
  }
}

interface LineCellProps {
  readonly digits: number
  readonly column: string
  readonly scope: string
  readonly rule: string
  readonly ruleText: string
  readonly when: string
  readonly curve: PriceListView['lines'][number]['curve']
  readonly rounding: string
  readonly effect: LineEffect
}

function LineCell({
  digits,
  column,
  scope,
  rule,
  ruleText: ruleWords,
  when,
  curve,
  rounding,
  effect,
}: LineCellProps) {
  switch (column) {
    case 'for':
      return (
        <span className="truncate" title={scope}>
          {scope}
        </span>
      )
    case 'rule':
      return (
        <>
          {curve.length > 1 && (
            <span className="mr-auto pr-1">
              <StepCurve steps={curve} />
            </span>
          )}
          <span className="truncate" title={ruleWords}>
            {ruleText(rule, digits)}
          </span>
        </>
      )
    case 'when':
      return when ? (
        <span className="truncate" title={when}>
          {when}
        </span>
      ) : (
        <span className="text-soft">always</span>
      )
    case 'rounding':
      return (
        <span className="truncate text-soft" title={rounding}>
          {rounding}
        </span>
      )
    case 'variants':
      if (effect.variants === 0) return <span className="font-semibold text-accent">never</span>
      return effect.variants
    case 'base':
      return <span className="text-soft">{effect.base || '–'}</span>
    case 'price':
      return <span className="font-semibold">{effect.price || '–'}</span>
    default: {
      if (!effect.margin) return <span className="text-soft">–</span>
      const { low, high } = effect.margin
      const text =
        low === high ? formatPercent(low) : `${formatPercent(low).replace(' %', '')} – ${formatPercent(high)}`
      return (
        <span className={effect.belowCost > 0 ? 'font-semibold text-error' : ''}>
          {text}
          {effect.belowCost > 0 && <span className="sr-only"> {effect.belowCost} below cost</span>}
        </span>
      )
    }
  }
}

/** A rule for reading: `−12 %`, `−0.60`, `112.00`. */
function ruleText(rule: string, digits: number): string {
  if (!/^[+-]?[\d.]+%?$/.test(rule)) return rule.replaceAll('-', '−')
  if (rule.endsWith('%')) return rule.replace('-', '−').replace('%', ' %')
  return formatAmount(decimal(rule), digits).replace(/^(?=\d)/, rule.startsWith('+') ? '+' : '')
}
