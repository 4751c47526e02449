'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { usePathname, useRouter, useSearchParams } from 'next/navigation'
import { useEffect, useRef, useTransition } from 'react'
import { createRecord, readField, saveRecord, type SaveOutcome, type SheetReference } from './save-record'
import type { SheetView } from '../sheet-view'
import { withTextsInUrl } from '@/ui/frame/texts-url'

export function referenceTo({ kind, id, label, revision, vantage, copyOf }: SheetView): SheetReference {
  return { kind, id, label, revision, vantage, copyOf }
}

/** What is typed on a sheet: kept in the address until it is saved, so that its effect is seen first and nothing is lost. */
export function useTyped(view: SheetView) {
  const path = usePathname()
  const search = useSearchParams()
  const router = useRouter()
  const { href, pricesChanged } = useFrame()
  const [isBusy, startTransition] = useTransition()
  // Edits made quickly build on each other, not on what the page showed before.
  const texts = useRef(view.texts)
  useEffect(() => {
    texts.current = view.texts
  }, [view.texts])

  function show(next: Readonly<Record<string, string>>): boolean {
    const address = withTextsInUrl(path, search.toString(), next)
    if (address === null) return false
    texts.current = next
    startTransition(() => router.replace(address, { scroll: false }))
    return true
  }

  /** Goes where the record is by now, with nothing typed any more. */
  function settle(outcome: SaveOutcome): SaveOutcome {
    if (!outcome.ok) return outcome
    pricesChanged(outcome.changeSet)
    texts.current = {}
    startTransition(() => {
      router.replace(href(outcome.href), { scroll: false })
      router.refresh()
    })
    return outcome
  }

  return {
    isBusy,
    settle,
    /** Tries a text in a field, with nothing saved; resolves to what is wrong, or `null`. */
    async try(field: string, text: string): Promise<string | null> {
      const next = { ...texts.current, [field]: text }
      const wrong = await readField(referenceTo(view), next, field)
      if (wrong !== null) return wrong
      return show(next) ? null : 'This is too long to try out. Save what is typed first.'
    },
    discard(field?: string): void {
      const { [field ?? '']: _gone, ...others } = texts.current
      show(field === undefined ? {} : others)
    },
    async save(revision = view.revision): Promise<SaveOutcome> {
      const outcome =
        view.id === ''
          ? await createRecord(view.kind, texts.current, view.copyOf)
          : await saveRecord({ ...referenceTo(view), revision }, texts.current)
      return settle(outcome)
    },
    /** Saves one field at once, where nothing depends on it that ought to be seen first. */
    async saveField(field: string, text: string): Promise<SaveOutcome> {
      return settle(await saveRecord(referenceTo(view), { [field]: text }))
    },
  }
}
