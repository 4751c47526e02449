import 'server-only'

import { FieldLink, FieldTick } from '@/sheet/parts/field-tick'
import { SheetNote, SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { MarginDumbbell } from '@/ui/chart/margin-dumbbell'
import { formatPercent } from '@/ui/format/amount'
import { formatMoment } from '@/ui/format/instant'
import { VantageLink } from '@/ui/frame/vantage-link'
import { adjustmentDetails, adjustmentSentence } from './adjustment-sentence'
import { type AdjustmentView, loadAdjustment, type MovedProduct } from './load-adjustment'

/** Below this a margin is looked at twice (common practice, no source). */
const LOW_MARGIN = 15
const MOST_SHOWN = 40

export const adjustmentSheet: SheetOfKind = {
  sentence: adjustmentSentence,
  details: adjustmentDetails,
  about: (record) => `switched ${String(record['state'])}`,
  effect: drawAdjustment,
}

async function drawAdjustment(loaded: LoadedSheet): Promise<SheetEffect> {
  const view = await loadAdjustment(loaded)
  if (!view) return { main: <p className="text-soft">Name it, and what it moves stands here.</p>, side: null }
  return {
    main: <Moves view={view} />,
    side: <Side view={view} />,
    summary: `${view.summary.moved} prices ${view.isOn ? 'move' : 'would move once it is switched on'}`,
  }
}

function Moves({ view }: { readonly view: AdjustmentView }) {
  const { summary, products, margins, buyer, isOn } = view
  if (summary.moved === 0)
    return (
      <>
        <p className="py-2">
          <b>Nothing moves.</b>{' '}
          <span className="text-soft">
            No price of guests or of any group is reached: look at whom it is for, what it is for and where.
          </span>
        </p>
        <table className="w-full">
          <tbody>
            <LeftOutRows leftOut={view.leftOut} />
          </tbody>
        </table>
      </>
    )
  const direction = summary.fall > 0 ? (summary.rise > 0 ? 'move' : 'fall') : 'rise'
  return (
    <>
      <p className="pb-2">
        <b>
          {summary.moved} prices {isOn ? direction : `would ${direction}`}, of {products.length}{' '}
          {products.length === 1 ? 'product' : 'products'}.
        </b>{' '}
        {margins[0] !== null && margins[1] !== null && (
          <span className="text-soft">
            {buyer}: mean margin {formatPercent(margins[0])} →{' '}
            <b className="text-base-content">{formatPercent(margins[1])}</b>
            {summary.belowCost > 0 ? (
              <b className="text-error">; {summary.belowCost} below cost</b>
            ) : (
              '; none below cost'
            )}
            .
          </span>
        )}
      </p>
      <table className="w-full">
        <thead>
          <tr className="border-b border-base-content text-right align-bottom">
            <th className="py-1 text-left font-semibold">Lowest margin first</th>
            <th className="w-32 py-1 font-semibold">Before</th>
            <th className="w-32 py-1 font-semibold">{isOn ? 'Now' : 'Switched on'}</th>
            <th className="w-24 py-1 font-normal text-soft">Margin before</th>
            <th className="w-20 py-1 font-semibold">Margin now</th>
            <th className="w-40 py-1 pl-4 text-left text-xs font-normal text-soft">from −10 to 70 %</th>
          </tr>
        </thead>
        <tbody>
          {products.slice(0, MOST_SHOWN).map((product) => (
            <ProductRow key={product.href} product={product} />
          ))}
          <LeftOutRows leftOut={view.leftOut} />
        </tbody>
      </table>
      <p className="pt-1 text-soft">Untick a row to leave that product out.</p>
      {products.length > MOST_SHOWN && (
        <p className="pt-1 text-soft">
          and {products.length - MOST_SHOWN} more products with higher margins.
        </p>
      )}
      <SheetNote title="Switching it off restores everything exactly">
        Nothing stored is changed: each price is worked out afresh whenever it is shown. Off, every price is
        again what it was, to the smallest unit. Orders already placed keep their prices.
      </SheetNote>
    </>
  )
}

function LeftOutRows({ leftOut }: Pick<AdjustmentView, 'leftOut'>) {
  return leftOut.map(({ name, href, code, scopeWith }) => (
    <tr key={code} className="border-b border-base-300 text-soft">
      <td className="flex items-baseline py-1">
        <FieldTick field="scope" text={scopeWith} label={`${name} is in it`} isIn={false} />
        <VantageLink href={href} className="line-through hover:underline">
          {name}
        </VantageLink>
      </td>
      <td colSpan={5} className="text-right">
        left out
      </td>
    </tr>
  ))
}

function ProductRow({ product }: { readonly product: MovedProduct }) {
  const { name, href, scopeWithout, variants, before, after, marginBefore, marginAfter, isBelowCost } =
    product
  const isLow = marginAfter !== null && Number(marginAfter) < LOW_MARGIN + 5
  return (
    <tr className="border-b border-base-300 text-right">
      <td className="flex items-baseline py-1 text-left">
        <FieldTick field="scope" text={scopeWithout} label={`${name} is in it`} isIn />
        <span>
          <VantageLink href={href} className="hover:underline">
            {name}
          </VantageLink>{' '}
          {variants > 1 && <span className="text-xs text-soft">{variants}</span>}
        </span>
      </td>
      <td className="text-soft">{before}</td>
      <td className="font-semibold">{after}</td>
      <td className="text-soft">{marginBefore === null ? '–' : formatPercent(marginBefore)}</td>
      <td className={isBelowCost ? 'font-semibold text-error' : isLow ? 'font-semibold text-accent' : ''}>
        {marginAfter === null ? '–' : formatPercent(marginAfter)}
      </td>
      <td className="pl-4">
        <MarginDumbbell
          before={marginBefore === null ? null : Number(marginBefore)}
          after={marginAfter === null ? null : Number(marginAfter)}
          floor={LOW_MARGIN}
        />
      </td>
    </tr>
  )
}

function Side({ view }: { readonly view: AdjustmentView }) {
  const { buyers, overtaken, isOn, holds, until, timeZone } = view
  const paying = buyers.filter(({ moved }) => moved > 0)
  const others = buyers.filter(({ moved }) => moved === 0)
  const moment = Number.isFinite(until) ? formatMoment(until, timeZone) : null
  return (
    <>
      <SideList title="From when to when">
        <p>
          {holds
            ? moment
              ? `Its time runs until ${moment}.`
              : 'Its time has no end.'
            : moment
              ? `Its time begins ${moment}.`
              : 'Its time is over.'}{' '}
          <span className="text-soft">{timeZone}</span>
        </p>
        {!isOn && <p className="text-soft">It is switched off, so nothing moves yet.</p>}
      </SideList>
      <SideList title={isOn ? 'Who pays otherwise' : 'Who would pay otherwise'}>
        {paying.map(({ name, href, moved, mean }) => (
          <SideRow
            key={name}
            href={href}
            name={name}
            about={mean === null ? '' : `${formatPercent(mean)} on average`}
          >
            {moved}
          </SideRow>
        ))}
        {paying.length === 0 && <p className="text-soft">Nobody.</p>}
      </SideList>
      {others.length > 0 && (
        <SideList title="Who does not">
          <p className="text-soft">{others.map(({ name }) => name).join(', ')}</p>
        </SideList>
      )}
      {overtaken.map(({ name, count, example, audienceWith }) => (
        <p key={name} className="mt-4 bg-warning p-2 text-warning-content">
          <b>{name} would pay more than guests</b> for {count} of them: {example}.{' '}
          {audienceWith !== null && <FieldLink field="audience" text={audienceWith} label={`Add ${name}`} />}
        </p>
      ))}
    </>
  )
}
