'use client'

import type { Place } from '@/ui/frame/places'
import { useState } from 'react'
import { Dialog, Heading, Modal, ModalOverlay } from 'react-aria-components'
import { useHotkeys } from 'react-hotkeys-hook'

const KEYS: readonly (readonly [keys: string, does: string])[] = [
  ['Arrows, Page Up, Page Down, Home, End', 'move in a grid'],
  ['Enter or typing', 'edit the figure; open or close a product'],
  ['Escape', 'leave the edit; close the trace'],
  ['Delete', 'empty the figure: take it over from the product or the list'],
  ['T or Space', 'show how the price came about'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['V', 'look through the draft, or at live prices'],
  ['Ctrl K', 'find anything'],
  ['?', 'this list'],
]

/** The list of keys, shown by `?`. */
export function KeyList({ places }: { readonly places: readonly Place[] }) {
  const [open, setOpen] = useState(false)
  useHotkeys('shift+slash', () => setOpen(true), { useKey: false })
  useHotkeys('?', () => setOpen(true), { useKey: true })
  return (
    <>
      <button type="button" className="text-soft hover:text-base-content" onClick={() => setOpen(true)}>
        Keys <kbd className="border border-base-300 bg-base-100 px-1 text-xs">?</kbd>
      </button>
      <ModalOverlay
        isOpen={open}
        onOpenChange={setOpen}
        isDismissable
        className="fixed inset-0 z-50 bg-black/25"
      >
        <Modal className="fixed top-24 left-1/2 w-[520px] -translate-x-1/2 border border-base-300 bg-base-100 p-5">
          <Dialog className="outline-none">
            <Heading slot="title" className="mb-3 text-base font-semibold">
              Keys
            </Heading>
            <table className="w-full">
              <tbody>
                {[
                  ...KEYS,
                  ...places.map(({ key, name }) => [`G then ${key.toUpperCase()}`, `go to ${name}`] as const),
                ].map(([keys, does]) => (
                  <tr key={keys} className="border-b border-dotted border-base-300">
                    <th scope="row" className="py-1 pr-4 text-left font-semibold">
                      {keys}
                    </th>
                    <td className="py-1 text-soft">{does}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Dialog>
        </Modal>
      </ModalOverlay>
    </>
  )
}
