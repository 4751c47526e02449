import 'server-only'

import type { Contract } from '@/core/price/contract'
import { LadderList } from '@/sheet/parts/ladder-list'
import { SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { flagOf } from '@/sheet/record/record-flags'
import { ShareBar } from '@/ui/chart/share-bar'
import { TimeLine } from '@/ui/chart/time-line'
import { formatPercent } from '@/ui/format/amount'
import { AgreedLines } from './agreed-lines'
import { contractDetails, contractSentence } from './contract-sentence'
import { type ContractView, loadContract } from './load-contract'
import { RenewButton } from '@/sheet/parts/renew-button'

export const contractSheet: SheetOfKind = {
  sentence: contractSentence,
  details: contractDetails,
  about: (record) => {
    const { code, state, isProtected } = record as unknown as Contract
    return [code, state, isProtected && 'protected'].filter(Boolean).join(' · ')
  },
  flag: (record, requestContext) => flagOf(requestContext, 'contract', record),
  effect: drawContract,
}

async function drawContract(loaded: LoadedSheet): Promise<SheetEffect> {
  const view = await loadContract(loaded)
  const isNew = loaded.stored === null
  return {
    main: (
      <>
        {view.total > 0 && (
          <ShareBar
            parts={view.coverage}
            total={view.total}
            label={`What ${view.party ?? 'they'} would pay by`}
          />
        )}
        <AgreedLines
          party={{ kind: 'contract', id: view.id }}
          name={String(loaded.record['name'])}
          lists={view.lists}
          live={loaded.view.live}
          isNew={isNew}
        />
      </>
    ),
    side: isNew && !view.party ? null : <Side view={view} />,
    actions: isNew ? null : <RenewButton kind="contract" id={view.id} name={String(loaded.record['name'])} />,
    summary: summaryText(view),
  }
}

function summaryText({ ending, party }: ContractView): string {
  if (!ending || !party) return ''
  return `${ending.moved} prices of ${party} differ from what they would pay without it`
}

function Side({ view }: { readonly view: ContractView }) {
  const { ladder, party, bound, ending, farthest, period, timeZone } = view
  return (
    <>
      {ladder && (
        <SideList
          title={party ? `The ladder of ${party}` : 'Their ladder'}
          about="From the top, the first with a price decides."
        >
          <LadderList ladder={ladder} />
        </SideList>
      )}
      <SideList title="Its time">
        <TimeLine {...period} timeZone={timeZone} />
      </SideList>
      <SideList title="Who is bound">
        {bound.map(({ name, href, about }) => (
          <SideRow key={href} name={name} href={href} about={about} />
        ))}
        {bound.length === 0 && <p className="text-soft">Nobody yet: choose accounts or groups.</p>}
      </SideList>
      {ending && ending.moved > 0 && (
        <SideList title="What its end changes">
          <p className="border-b border-base-300 py-1">
            <b>
              {ending.moved} prices {ending.fall > ending.rise ? 'fall' : 'rise'}
            </b>
            {ending.mean !== null && ` by ${formatPercent(ending.mean).replace('−', '')} on average`}
          </p>
          {farthest && <p className="py-1 text-soft">The most: {farthest}</p>}
        </SideList>
      )}
    </>
  )
}
