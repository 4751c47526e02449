import 'server-only'

import type { CustomerGroup } from '@/core/buyers/buyer'
import { getSettings } from '@/core/store/store'
import { LadderRungs } from '@/sheet/parts/ladder-rungs'
import { SideList } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { formatPercent } from '@/ui/format/amount'
import { DISPLAY_WORDS } from '@/ui/format/terms-phrases'
import { BuyerLinks } from './buyer-links'
import { VantageLink } from '@/ui/frame/vantage-link'
import { groupDetails, groupSentence } from './buyer-sentences'
import { GroupMembers } from './group-members'
import { type GroupView, loadGroup } from './load-group'
import { OpenPromotions } from './open-promotions'

export const groupSheet: SheetOfKind = {
  sentence: groupSentence,
  details: groupDetails,
  about: (record) => String(record['code']),
  effect: drawGroup,
}

async function drawGroup(loaded: LoadedSheet): Promise<SheetEffect> {
  const view = await loadGroup(loaded)
  if (!view) return { main: <p className="text-soft">A name is enough to begin with.</p>, side: null }
  const isNew = loaded.stored === null
  return {
    main: (
      <>
        {!isNew && (
          <GroupMembers
            group={loaded.id}
            members={view.members}
            count={view.memberCount}
            live={loaded.view.live}
          />
        )}
        <div className="grid gap-x-8 gap-y-5 xl:grid-cols-[1.25fr_1fr]">
          <section aria-label="Where a member’s prices come from">
            <LadderRungs ladder={view.ladder} title="Where a member’s prices come from" />
          </section>
          <Compared view={view} />
        </div>
      </>
    ),
    side: isNew ? null : <Side view={view} loaded={loaded} />,
    actions: isNew ? null : <BuyerLinks as={`group:${view.code}`} />,
  }
}

function Compared({ view }: { readonly view: GroupView }) {
  const { branches, otherName } = view
  const widest = Math.max(1, ...branches.map(({ here }) => Math.abs(Number(here ?? 0))))
  return (
    <section aria-label="Compared">
      <table className="w-full text-right">
        <thead>
          <tr className="border-b border-base-content">
            <th className="py-1 text-left font-semibold">Mean difference to base</th>
            <th className="w-20 font-semibold">Here</th>
            {otherName && <th className="w-24 font-semibold">{otherName}</th>}
            <th className="w-24">
              <span className="sr-only">Drawn</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {branches.map(({ name, here, other }) => (
            <tr key={name} className="border-b border-base-300">
              <td className="py-1 text-left">{name}</td>
              <td className="font-semibold">{here === null ? '–' : formatPercent(here)}</td>
              {otherName && <td className="text-soft">{other === null ? '–' : formatPercent(other)}</td>}
              <td className="pl-4">
                <span
                  aria-hidden
                  className="block h-2 bg-bar"
                  style={{ width: `${(Math.abs(Number(here ?? 0)) / widest) * 100}%` }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

function Side({ view, loaded }: { readonly view: GroupView; readonly loaded: LoadedSheet }) {
  const { taxDisplay, cartTaxDisplay } = loaded.record as unknown as CustomerGroup
  const { netWords, grossWords } = getSettings(loaded.before.prepared.store)
  const words = taxDisplay === 'gross' ? grossWords || 'with tax' : netWords || 'without tax'
  return (
    <>
      <SideList title="What the shop shows them">
        {view.sample ? (
          <div className="border border-base-300 bg-base-100 p-3">
            <p className="text-soft">{view.sample.name}</p>
            <p>
              <b className="text-lg">{view.sample.price}</b>{' '}
              <span className="text-soft">{taxDisplay === null ? '' : words}</span>
            </p>
            <p className="text-soft">
              Public price <s>{view.sample.publicPrice}</s>
            </p>
          </div>
        ) : (
          <p className="text-soft">What guests pay: no list for them is lower yet.</p>
        )}
      </SideList>
      <OpenPromotions promotions={view.promotions} />
      <SideList title="The words">
        <p>
          In the shop {taxDisplay === null ? 'as the region says' : DISPLAY_WORDS[taxDisplay]}; in the cart{' '}
          {cartTaxDisplay === null ? 'as the region says' : DISPLAY_WORDS[cartTaxDisplay]}.
        </p>
        <p className="text-soft">
          Prices without tax read “{netWords || 'without tax'}”, with tax “{grossWords || 'with tax'}”.{' '}
          <VantageLink href="/settings/settings" className="link-name">
            Reword
          </VantageLink>
        </p>
      </SideList>
      <SideList title="In the shop, as one of them">
        <VantageLink
          href="/look-as-buyer?page=/shop"
          lookAs={`group:${view.code}`}
          className="btn btn-primary btn-sm"
        >
          Open the shop as a member
        </VantageLink>
      </SideList>
    </>
  )
}
