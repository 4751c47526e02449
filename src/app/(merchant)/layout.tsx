import { KeyList } from '@/features/palette/key-list'
import { Palette } from '@/features/palette/palette'
import { ShopWindowLink } from '@/features/shop/entrance/shop-window-link'
import { TracePanel } from '@/features/trace/trace-panel'
import { loadVantage } from '@/features/vantage/load-vantage'
import { VantageSentence } from '@/features/vantage/vantage-sentence'
import { getSettings } from '@/core/store/store'
import { merchantPlaces } from '@/features/places/merchant-places'
import { PersonLink } from '@/features/staff/person-link'
import { signedIn } from '@/server/session/permit'
import { freshSteppe, howFresh } from '@/server/changes/follow'
import { currentView } from '@/server/views/current-view'
import { DraftBar } from '@/features/drafts/draft-bar'
import { startDraft } from '@/features/drafts/draft-actions'
import { DraftsProvider } from '@/ui/frame/drafts-context'
import { FrameProvider } from '@/ui/frame/frame-context'
import { DatabaseNotice } from '@/ui/frame/database-notice'
import { MerchantFrame } from '@/ui/frame/merchant-frame'
import { PickerSourcesProvider } from '@/ui/picker/picker-sources'
import {
  findGifts,
  findWhatItems,
  loadRecordChoices,
  loadWhatChoices,
  loadWhereChoices,
  loadWhoChoices,
  matchScope,
  readWhatWords,
} from '@/features/pickers/load-choices'
import { loadListNames, tryPriceRule } from '@/features/pickers/try-rule'
import { makeNamedRecord } from '@/features/pickers/make-record'
import { currentInstant } from '@/server/clock'
import { redirect } from 'next/navigation'
import { connection } from 'next/server'
import type { ReactNode } from 'react'
import { Toaster } from 'sonner'

const GONE =
  'The database does not answer. You see what was last known, without history and orders; nothing can be saved, and what you typed stays. This goes by itself.'

export default async function MerchantLayout({ children }: { readonly children: ReactNode }) {
  await connection()
  const doer = await signedIn()
  const steppe = await freshSteppe()
  if (steppe.broken) redirect('/mend')
  if (!steppe.prepared) redirect('/set-up')
  const { store } = (await currentView()).prepared
  const known = await howFresh()
  const places = merchantPlaces(store, doer.permissions)
  return (
    <FrameProvider>
      <DraftsProvider>
        <MerchantFrame
          storeName={getSettings(store).name}
          places={places}
          vantage={<VantageSentence view={await loadVantage(steppe, store)} startDraft={startDraft} />}
          tools={
            <>
              <KeyList places={places} />
              <Palette places={places} />
            </>
          }
          trace={<TracePanel />}
          notice={
            <>
              {steppe.isShared && (
                <DatabaseNotice key={known} isGone={known === 'without-database'} words={GONE} />
              )}
              {known === 'older' && (
                <p role="status" className="bg-warning px-4 py-1.5 text-warning-content md:px-8">
                  Others have just changed a lot, and not all of it is here yet. Load the page again in a
                  moment.
                </p>
              )}
            </>
          }
          bar={<DraftBar />}
          person={<PersonLink name={doer.name} isOpenDoor={doer.kind === 'open-door'} />}
          shopWindow={
            <ShopWindowLink className="flex w-full border-l-4 border-transparent py-1 pr-3 pl-3 hover:bg-base-200">
              Shop window
            </ShopWindowLink>
          }
        >
          <PickerSourcesProvider
            loadWho={loadWhoChoices}
            loadWhat={loadWhatChoices}
            findItems={findWhatItems}
            findVariants={findGifts}
            matchScope={matchScope}
            readWords={readWhatWords}
            loadWhere={loadWhereChoices}
            loadRecords={loadRecordChoices}
            makeRecord={makeNamedRecord}
            loadLists={loadListNames}
            tryRule={tryPriceRule}
            clock={{ timeZone: getSettings(store).timeZone, now: currentInstant().getTime() }}
          >
            {children}
          </PickerSourcesProvider>
        </MerchantFrame>
      </DraftsProvider>
      {/* Above the bars at the foot of the board and of a review. */}
      <Toaster
        position="bottom-center"
        offset={{ bottom: '5.75rem' }}
        toastOptions={{ unstyled: true, className: 'steppe-toast' }}
      />
    </FrameProvider>
  )
}
