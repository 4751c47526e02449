import 'server-only'

import { MentionList } from '@/sheet/parts/mention-list'
import { SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { VantageLink } from '@/ui/frame/vantage-link'
import { capital } from '@/ui/format/capital'
import { limitPhrase } from '@/ui/format/terms-phrases'
import type { LimitRule } from '@/core/limits/limit'
import { limitDetails, limitSentence } from './limit-sentence'
import { type LimitView, loadLimit, MOST_TRIED } from './load-limit'

export const limitSheet: SheetOfKind = {
  sentence: limitSentence,
  details: limitDetails,
  about: (record) => `switched ${String(record['state'])}`,
  effect: drawLimit,
}

async function drawLimit(loaded: LoadedSheet): Promise<SheetEffect> {
  const view = await loadLimit(loaded)
  if (!view)
    return {
      main: <p className="text-soft">Name it and say what it limits: how it comes out stands here.</p>,
      side: null,
    }
  const rule = loaded.record as unknown as LimitRule
  return {
    main: (
      <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[1fr_15rem]">
        <div>
          {rule.counting === 'each' ? (
            <TryLine view={view} days={rule.days} />
          ) : (
            <p className="pb-3">
              <b>{limitPhrase(rule) || 'No figure is set yet'}.</b>{' '}
              <span className="text-soft">
                It counts several things together, so it is checked in the cart and not for one item alone.
              </span>
            </p>
          )}
          <Levels view={view} />
        </div>
        <Reached view={view} />
      </div>
    ),
    side: <Side view={view} rule={rule} />,
    summary: `${view.reached} variants are limited`,
  }
}

function TryLine({ view, days }: { readonly view: LimitView; readonly days: number | null }) {
  const { tries, asked, item, buyer } = view
  if (!item) return null
  const place = (quantity: number) => 10 + ((quantity - 1) / (MOST_TRIED - 1)) * 520
  const passing = tries.filter(({ passes }) => passes)
  return (
    <section className="pb-4" aria-label="Try a quantity">
      <h2 className="border-b border-base-content pb-1 font-semibold">Quantities that pass</h2>
      <p className="py-2 text-sm">
        <span className="text-soft">Of </span>
        <b>{item.name}</b>
        <span className="text-soft"> for </span>
        <b>{buyer}</b>
        <span className="text-soft">
          {days !== null && `, with none bought in the ${days} days before`}; change the buyer and the
          quantity in the vantage above.
        </span>
      </p>
      <svg viewBox="0 0 540 40" className="w-full" role="img">
        <title>{`Up to ${MOST_TRIED} pass: ${passing.map(({ quantity }) => quantity).join(', ') || 'none'}`}</title>
        <line x1="4" x2="536" y1="18" y2="18" className="stroke-base-300" strokeWidth="2" />
        {tries.map(({ quantity, passes }) => (
          <circle
            key={quantity}
            cx={place(quantity)}
            cy="18"
            r={passes ? 4.5 : 1.5}
            className={passes ? 'fill-primary' : 'fill-base-content/30'}
          />
        ))}
        {passing
          .filter((_, at) => at % Math.max(1, Math.ceil(passing.length / 8)) === 0)
          .map(({ quantity }) => (
            <text
              key={quantity}
              x={place(quantity)}
              y="38"
              textAnchor="middle"
              className="fill-base-content text-[11px]"
            >
              {quantity}
            </text>
          ))}
        {!asked.passes && Number(asked.quantity) <= MOST_TRIED && (
          <circle
            cx={place(Number(asked.quantity))}
            cy="18"
            r="5"
            strokeWidth="2"
            className="fill-base-100 stroke-error"
          />
        )}
      </svg>
      <p>
        {asked.passes ? (
          <b className="text-primary">{asked.quantity} passes.</b>
        ) : (
          <>
            <b className="text-error">{asked.quantity} is stopped.</b>{' '}
            {asked.above !== null && <b>{asked.above} passes.</b>}
            {asked.above === null && asked.below !== null && <b>{asked.below} passes.</b>}
          </>
        )}
      </p>
    </section>
  )
}

function Levels({ view }: { readonly view: LimitView }) {
  const { levels, item } = view
  if (levels.length === 0) return null
  return (
    <>
      <table className="w-full">
        <thead>
          <tr className="border-b border-base-content text-left">
            <th className="py-1 font-semibold">Field</th>
            <th className="font-semibold">Set by</th>
            <th className="font-semibold">From</th>
            <th className="text-right font-semibold">Value</th>
            <th className="pl-4">
              <span className="sr-only">Whether it counts</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {levels.map(({ field, by, href, about, value, counts }, at) => (
            <tr
              key={`${field} ${by} ${at}`}
              className={`border-b border-base-300 ${counts ? 'bg-chosen/60' : ''}`}
            >
              <td className="py-1 font-semibold">{levels[at - 1]?.field === field ? '' : field}</td>
              <td>
                {href === null ? (
                  by
                ) : (
                  <VantageLink href={href} className="link-name">
                    {by}
                  </VantageLink>
                )}
              </td>
              <td className="text-soft">{about}</td>
              <td className="text-right font-semibold">{value}</td>
              <td className={`pl-4 ${counts ? 'font-semibold text-primary' : 'text-soft'}`}>
                {counts ? 'counts' : ''}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="pt-1 text-xs text-soft">
        For {item?.name}: field by field the nearest level counts, the variant first; of limits that say
        equally much the stricter.
      </p>
    </>
  )
}

const MOST_SHOWN = 14

function Reached({ view }: { readonly view: LimitView }) {
  const { products, reached, stuck } = view
  return (
    <section aria-label="What it limits">
      <h2 className="border-b border-base-content pb-1 font-semibold">
        What it limits{' '}
        <span className="font-normal text-soft">
          {reached} variants of {products.length} products
        </span>
      </h2>
      {products.slice(0, MOST_SHOWN).map(({ name, href, variants }) => (
        <SideRow key={href} name={name} href={href}>
          {variants}
        </SideRow>
      ))}
      {products.length > MOST_SHOWN && (
        <p className="pt-1 text-soft">and {products.length - MOST_SHOWN} more</p>
      )}
      {stuck.length > 0 && (
        <p className="mt-3 bg-warning p-2 text-warning-content">
          <b>No quantity passes</b> for {stuck.slice(0, 3).join('; ')}
          {stuck.length > 3 && ` and ${stuck.length - 3} more`}, so they cannot be bought. Look at what else
          limits them.
        </p>
      )}
    </section>
  )
}

function Side({ view, rule }: { readonly view: LimitView; readonly rule: LimitRule }) {
  const { asked, item, others } = view
  const sentence = rule.message || `${capital(limitPhrase(rule)) || 'No limit yet'}.`
  return (
    <>
      <SideList title="How the shop says it" about={`Having typed ${asked.quantity}`}>
        <div className="border border-base-300 bg-base-100 p-3">
          <p className="font-semibold">{item?.name ?? 'An item'}</p>
          <p className="mt-2 inline-block border border-base-content/30 px-3 py-1">{asked.quantity}</p>
          {asked.passes ? (
            <p className="pt-2 text-primary">Can be added to the cart.</p>
          ) : (
            <p className="pt-2 text-error">
              {sentence} You have {asked.quantity}.
            </p>
          )}
        </div>
      </SideList>
      <MentionList title="Other limits on the same items" mentions={others} none="None." />
    </>
  )
}
