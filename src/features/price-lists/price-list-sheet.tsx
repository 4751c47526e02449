'use client'

import { decimal } from '@/core/decimal/decimal'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import { useFrame } from '@/ui/frame/frame-context'
import { HistorySection } from '@/ui/frame/history-section'
import { useSheet } from '@/ui/frame/use-sheet'
import { VantageLink } from '@/ui/frame/vantage-link'
import { DataGrid, type GridColumn } from '@/ui/grid/data-grid'
import { StepCurve } from '@/ui/chart/step-curve'
import { TypedWord } from '@/ui/picker/typed-word'
import { useCallback, useMemo, useState } from 'react'
import { AddLineForm } from './add-line-form'
import { EVERYTHING } from '@/core/predicates/what'
import { PickerWord } from '@/ui/picker/picker-word'
import { WhatPicker } from '@/ui/picker/what/what-picker'
import { WhoPicker } from '@/ui/picker/who/who-picker'
import { useWhatSource, useWhoSource } from '@/ui/picker/picker-sources'
import { CoverageSection } from './coverage-section'
import {
  addPriceLine,
  editLineScope,
  editLineWhen,
  editPriceLine,
  editPriceListHead,
  takeBackOnPriceList,
} from './edit-price-list'
import type { PriceListHeadInput } from './price-list-input'
import type { LineEffect, PriceListView } from './price-list-view'
import { RoundingWord } from './rounding-word'
import { recordHref } from '@/ui/frame/record-href'

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

/** One price list: who it is for as a sentence, and what each of its lines does. */
export function PriceListSheet({ initial }: { readonly initial: PriceListView }) {
  const { view, take } = useSheet(initial)
  const { showTrace, setVantage, vantage } = useFrame()

  const saveHead = (input: PriceListHeadInput) => take((now) => editPriceListHead(sheetOf(now), input))
  const { example } = view
  /** While the picker is open: what the sentence says of what is chosen in it. */
  const [whoWords, setWhoWords] = useState<string | null>(null)
  const [openLine, setOpenLine] = useState<PriceListView['lines'][number] | null>(null)
  const source = useWhatSource()
  const loadWho = useWhoSource()

  const columns: readonly GridColumn[] = [
    { key: 'for', header: 'For', width: 'minmax(140px, 2fr)' },
    { key: 'rule', header: 'Rule', width: 'minmax(84px, 2fr)', align: 'right' },
    { key: 'when', header: 'When', width: 'minmax(84px, 1.2fr)' },
    { key: 'rounding', header: 'Rounded', width: 'minmax(92px, 1.4fr)' },
    { key: 'variants', header: 'Prices', width: '92px', align: 'right' },
    { key: 'base', header: `Base, net ${view.currency}`, width: '126px', align: 'right' },
    { key: 'price', header: 'Becomes', width: '126px', align: 'right' },
    { key: 'margin', header: 'Margin', width: '108px', align: 'right' },
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
    <section className="flex min-h-0 flex-1 flex-col overflow-auto" aria-label={view.name}>
      <header className="px-6 pt-4 pb-3">
        <h1 className="text-xl leading-7 font-semibold">
          {view.name}{' '}
          <span className="text-sm font-normal text-soft">
            {view.code} · {view.purpose} list · {view.accounts} accounts
          </span>
        </h1>
        <p className="max-w-4xl pt-2 text-base leading-8" data-testid="list-sentence">
          <span className="text-soft">For </span>
          <PickerWord
            word={whoWords ?? view.audienceText}
            label="Who the list is for"
            isOpen={whoWords !== null}
            disabled={!view.live}
            onOpen={() => setWhoWords(view.audienceText)}
          />
          <span className="text-soft">: the lines below, and </span>
          <TypedWord
            word={view.otherwiseText || 'nothing'}
            label="For all other items"
            initial={view.otherwise}
            hint={`${RULE_HINT} Empty leaves it to the next list.`}
            disabled={!view.live}
            onSave={(otherwise) => saveHead({ otherwise })}
          />
          <span className="text-soft"> for all other items; computed prices rounded </span>
          <RoundingWord
            word={view.roundingText}
            rounding={view.rounding}
            disabled={!view.live}
            onSave={(rounding) => saveHead({ rounding })}
          />
          <span className="text-soft">. Priority </span>
          <TypedWord
            word={String(view.rank)}
            label="Rank among lists on the same rung"
            initial={String(view.rank)}
            hint="1 is asked first. A whole number."
            disabled={!view.live}
            onSave={(typed) => saveHead({ rank: Number(typed.trim() || 'NaN') })}
          />
          <span className="text-soft">. It is </span>
          <button
            type="button"
            className="word align-baseline leading-5"
            disabled={!view.live}
            title="Click to switch"
            onClick={() => void saveHead({ state: view.state === 'on' ? 'off' : 'on' })}
          >
            switched {view.state}
          </button>
          <span className="text-soft">.</span>
        </p>
        <p className="flex gap-5">
          <VantageLink href={recordHref('list-records', view.code)} className="link-name">
            Where, when, currency and more
          </VantageLink>
          <VantageLink href={`/import?list=${encodeURIComponent(view.code)}`} className="link-name">
            Import prices from a spreadsheet
          </VantageLink>
          {example && example.as !== vantage.as && (
            <button type="button" className="link-name" onClick={() => setVantage({ as: example.as })}>
              Look as {example.name}
            </button>
          )}
        </p>
      </header>
      {whoWords !== null && (
        <WhoPicker
          label="Who the list is for"
          initial={view.audience}
          mayBeEmpty={view.purpose === 'contract'}
          load={loadWho}
          onChange={setWhoWords}
          onCancel={() => setWhoWords(null)}
          onDone={async (who) => {
            const wrong = await saveHead(who)
            if (wrong === null) setWhoWords(null)
            return wrong
          }}
        />
      )}
      {openLine && (
        <WhatPicker
          key={openLine.id}
          label="What the line is for"
          initial={openLine.what}
          source={source}
          onCancel={() => setOpenLine(null)}
          onDone={async (_what, text) => {
            const wrong = await take((now) => editLineScope(sheetOf(now), lineOf(now, openLine), text))
            if (wrong === null) setOpenLine(null)
            return wrong
          }}
        />
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
            if (column === 0 && line.kind === 'line' && view.live)
              return (
                <button
                  type="button"
                  tabIndex={-1}
                  title={`${line.scope}. Click to change`}
                  className="truncate text-left hover:underline"
                  onClick={() => setOpenLine(line)}
                >
                  {line.scope}
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
            if (asked && column === 0 && line?.kind === 'line' && view.live) return setOpenLine(line)
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
        <AddLineForm onAdd={(what, rule) => take((now) => addPriceLine(sheetOf(now), what, rule))} />
      )}
      <CoverageSection coverage={view.coverage} isOn={view.state === 'on'} />
      <HistorySection
        history={view.history}
        onTakeBack={
          view.live ? (changeSet) => take((now) => takeBackOnPriceList(sheetOf(now), changeSet)) : undefined
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
      return effect.variants === 1 ? '1 variant' : `${effect.variants} variants`
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
