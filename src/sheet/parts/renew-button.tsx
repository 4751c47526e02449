'use client'

import { writeDate, writeLastDay } from '@/core/notation/when-text'
import { renew, suggestRenewal, type Renewal, type RenewOutcome } from '@/sheet/price-lines/renew'
import { useFrame } from '@/ui/frame/frame-context'
import { PickerButtons } from '@/ui/picker/panel/picker-buttons'
import { WhenLoaded } from '@/ui/picker/panel/when-loaded'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components'

interface RenewButtonProps {
  readonly kind: Renewal['kind']
  readonly id: string
  readonly name: string
}

/** Starts the next period of a contract or dated list: dates shifted, prices raised by a percentage or kept. */
export function RenewButton(props: RenewButtonProps) {
  const [isOpen, setOpen] = useState(false)
  return (
    <DialogTrigger isOpen={isOpen} onOpenChange={setOpen}>
      <Button className="link-name">Renew</Button>
      <Popover className="w-96 border border-base-300 bg-base-100" placement="bottom end">
        <Dialog aria-label={`Renew ${props.name}`} className="outline-none">
          <WhenLoaded load={() => suggestRenewal(props.kind, props.id)} waiting="Reading its dates …">
            {(period) =>
              period ? (
                <RenewForm
                  {...props}
                  from={writeDate(period.from)}
                  to={writeLastDay(period.to)}
                  onClose={() => setOpen(false)}
                />
              ) : (
                <p className="p-4">It has no end, so there is nothing to renew: it simply goes on.</p>
              )
            }
          </WhenLoaded>
        </Dialog>
      </Popover>
    </DialogTrigger>
  )
}

function RenewForm({
  kind,
  id,
  name,
  from,
  to,
  onClose,
}: RenewButtonProps & { readonly from: string; readonly to: string; readonly onClose: () => void }) {
  const router = useRouter()
  const { href, pricesChanged } = useFrame()
  const [fields, setFields] = useState({ from, to, percent: '' })
  const [outcome, setOutcome] = useState<RenewOutcome | null>(null)
  const failed = outcome && !outcome.ok ? outcome : null
  const input = (field: 'from' | 'to' | 'percent', title: string, placeholder: string) => (
    <label className="grid grid-cols-[8rem_1fr] items-baseline gap-2">
      <span className="text-soft">{title}</span>
      <input
        aria-invalid={failed?.field === field}
        placeholder={placeholder}
        className="border border-base-300 bg-lifted px-2 py-1 aria-[invalid=true]:border-error"
        value={fields[field]}
        onChange={(event) => setFields({ ...fields, [field]: event.target.value })}
      />
    </label>
  )
  return (
    <form
      className="flex flex-col gap-2 p-4"
      onSubmit={(event) => {
        event.preventDefault()
        void renew({ kind, id, ...fields }).then((next) => {
          setOutcome(next)
          if (!next.ok) return
          pricesChanged(next.changeSet)
          onClose()
          router.push(href(next.href))
        })
      }}
    >
      <h2 className="font-semibold">Renew {name}</h2>
      <p className="text-soft">
        A copy with all its lines{kind === 'contract' && ' and its own price lists'} for the next period. The
        present one stays as it was agreed.
      </p>
      {input('from', 'From', '1 April 2027')}
      {input('to', 'Until, last day', '31 March 2028')}
      {input('percent', 'Prices rise by, %', '0: as they are')}
      <p className="text-xs text-soft">
        Amounts off or on another price cannot be raised by a percentage and stay as they are.
      </p>
      <PickerButtons problem={failed?.problem ?? null} onCancel={onClose} />
    </form>
  )
}
