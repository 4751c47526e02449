import 'server-only'

import type { Passcode } from '@/core/access/access'
import { mentionsOfBuyerOrPlace } from '@/sheet/effect/mentions'
import { MentionList } from '@/sheet/parts/mention-list'
import { SideList, SideRow } from '@/sheet/parts/side-parts'
import type { LoadedSheet, SheetEffect, SheetOfKind } from '@/sheet/record/load-sheet'
import { GATE_WORDS } from '@/ui/format/terms-phrases'
import { recordHref } from '@/ui/frame/record-href'
import { passcodeDetails, passcodeSentence } from './access-sentences'

export const passcodeSheet: SheetOfKind = {
  sentence: passcodeSentence,
  details: passcodeDetails,
  effect: drawPasscode,
}

/** What a passcode opens, and what is for whoever has it. */
function drawPasscode({ id, record, stored, before }: LoadedSheet): SheetEffect {
  const { store } = before.prepared
  const { channel, isReview } = record as unknown as Passcode
  const channels = [...store.channel.values()].filter(
    (each) => each.status === 'active' && (channel === null || each.id === channel),
  )
  return {
    main: (
      <section className="max-w-xl" aria-label="What it opens">
        <h2 className="border-b border-base-content pb-1 font-semibold">What it opens</h2>
        {channels.map((each) => (
          <SideRow
            key={each.id}
            name={each.name}
            href={recordHref('channels', each.code)}
            about={
              each.gate === 'passcode'
                ? 'closed to everybody without a passcode'
                : `needs no passcode: ${GATE_WORDS[each.gate]}`
            }
          />
        ))}
        {isReview && (
          <p className="pt-2">
            Whoever has it sees everything, whatever other rules hide, and cannot buy: for press and
            reviewers.
          </p>
        )}
      </section>
    ),
    side: stored ? (
      <>
        <MentionList
          title="Only for whoever has it"
          mentions={mentionsOfBuyerOrPlace(
            store,
            (term) => term.kind === 'passcode' && term.passcode === id,
            () => false,
          )}
          none="Nothing yet: lists, limits and access rules can be for whoever has it."
        />
        <SideList title="How it is entered">
          <p className="text-soft">
            In the shop under “Enter a passcode”, in any case; it can be left again there.
          </p>
        </SideList>
      </>
    ) : null,
  }
}
