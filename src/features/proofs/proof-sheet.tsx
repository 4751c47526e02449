import 'server-only'

import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Proof } from '@/core/proofs/proof'
import { prove, type Verdict } from '@/core/proving/prove'
import { Slices } from '@/server/doors/slices'
import { SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { VantageLink } from '@/ui/frame/vantage-link'
import { brokenRows, type BrokenRow, stateText } from './broken-rows'
import { proofDetails, proofSentence } from './proof-sentence'

export const proofSheet: SheetOfKind = {
  sentence: proofSentence,
  details: proofDetails,
  effect: drawProof,
}

async function drawProof({ after, before, stored, record }: LoadedSheet): Promise<SheetEffect> {
  const { prepared, now } = after ?? before
  const id = String(record['id'] ?? '')
  const proof = (
    after ? [...after.prepared.store.proof.values()].find((each) => isSame(each, record, id)) : stored
  ) as Proof | undefined | null
  if (!proof)
    return { main: <p className="text-soft">Name it, and whether it holds stands here.</p>, side: null }
  const shown = await judge(prepared, proof, now)
  const live = before.view.draft ? await judge(before.view.draft.live, proof, now) : null
  return {
    main: <Judged verdict={shown} rows={brokenRows(prepared, shown)} />,
    side: (
      <SideList title="Holds">
        <SideRow name={before.view.draft ? 'In the draft' : 'Live'} about={stateText(shown)} />
        {live && <SideRow name="Live" about={stateText(live)} />}
      </SideList>
    ),
    summary: stateText(shown),
  }
}

function isSame(proof: Proof, record: Readonly<Record<string, unknown>>, id: string): boolean {
  return id === '' || id === 'unsaved' ? proof.name === String(record['name']).trim() : proof.id === id
}

function judge(prepared: PreparedStore, proof: Proof, at: number): Promise<Verdict> {
  return new Slices().run(prove(prepared, proof, at))
}

function Judged({ verdict, rows }: { readonly verdict: Verdict; readonly rows: readonly BrokenRow[] }) {
  const { state, checked, held } = verdict
  return (
    <>
      <p className="py-2 text-base">
        <b className={state === 'broken' || state === 'empty' ? 'text-error' : ''}>{stateText(verdict)}</b>
      </p>
      {rows.length > 0 && (
        <table className="w-full" aria-label="Where it does not hold">
          <thead>
            <tr className="border-b border-base-content text-left">
              <th className="py-1 pr-4 font-semibold">Who</th>
              <th className="py-1 pr-4 font-semibold">What</th>
              <th className="py-1 text-right font-semibold">Found instead</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ who, as, title, sku, found }) => (
              <tr key={`${who} ${sku}`} className="border-b border-base-300">
                <td className="py-1 pr-4">{who}</td>
                <td className="py-1 pr-4">
                  {sku === '' ? (
                    title
                  ) : (
                    <VantageLink
                      href={`/board?find=${encodeURIComponent(sku)}`}
                      lookAs={as}
                      className="link-name"
                    >
                      {title}
                    </VantageLink>
                  )}
                </td>
                <td className="py-1 text-right font-semibold text-error">{found}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {checked - held > rows.length && (
        <p className="pt-1 text-soft">and {checked - held - rows.length} more</p>
      )}
    </>
  )
}
