'use client'

import { useDrafts } from '@/ui/frame/drafts-context'
import { useFrame } from '@/ui/frame/frame-context'
import { NewDraft, type StartDraft } from '@/ui/frame/new-draft'
import { WordPopover } from '@/ui/picker/word-popover'

/** The word that says whether what is live is looked at, or a draft as if it were. */
export function DraftWord({ startDraft }: { readonly startDraft: StartDraft }) {
  const { vantage, setVantage } = useFrame()
  const { view } = useDrafts()
  const drafts = view?.drafts ?? []
  const name = drafts.find(({ code }) => code === vantage.draft)?.name ?? vantage.draft
  const word = vantage.draft === null ? 'live prices' : `draft “${name}”`
  return (
    <span className={vantage.draft === null ? '' : 'text-accent'}>
      <WordPopover word={word} label="Looking in" disabled={false}>
        {(close) => {
          const choose = (draft: string | null) => {
            setVantage({ draft })
            close()
          }
          return (
            <>
              <ul className="py-1">
                <Choice isChosen={vantage.draft === null} onChoose={() => choose(null)}>
                  Live prices
                </Choice>
                {drafts.map((draft) => (
                  <Choice
                    key={draft.code}
                    isChosen={draft.code === vantage.draft}
                    onChoose={() => choose(draft.code)}
                  >
                    Draft “{draft.name}”
                  </Choice>
                ))}
              </ul>
              <div className="border-t border-base-300 px-3 py-2">
                <p className="pb-1 text-xs text-soft">
                  A draft is seen by nobody but you until it is published, all of it at once.
                </p>
                <NewDraft startDraft={startDraft} onStarted={choose} />
              </div>
            </>
          )
        }}
      </WordPopover>
    </span>
  )
}

function Choice({
  isChosen,
  onChoose,
  children,
}: {
  readonly isChosen: boolean
  readonly onChoose: () => void
  readonly children: React.ReactNode
}) {
  return (
    <li>
      <button
        type="button"
        aria-pressed={isChosen}
        className={`w-full px-3 py-1 text-left hover:bg-chosen ${isChosen ? 'font-semibold' : ''}`}
        onClick={onChoose}
      >
        {children}
      </button>
    </li>
  )
}
