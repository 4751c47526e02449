'use client'

import { VantageLink } from '@/ui/frame/vantage-link'
import { RecordPicker } from '@/ui/picker/records/record-picker'
import { Unrolled } from '@/ui/picker/panel/unrolled'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { GroupMember } from './load-group'
import { changeMembers } from './save-members'

interface GroupMembersProps {
  readonly group: string
  readonly members: readonly GroupMember[]
  readonly count: number
  readonly live: boolean
}

/** Who is in a group, with what comes before its level for each of them. */
export function GroupMembers({ group, members, count, live }: GroupMembersProps) {
  const [isAdding, setAdding] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const router = useRouter()

  async function change(names: string, isMember: boolean): Promise<string | null> {
    const wrong = await changeMembers(group, names, isMember)
    if (wrong === null) {
      setAdding(false)
      router.refresh()
    }
    if (!isMember) setProblem(wrong)
    return wrong
  }
  return (
    <section aria-label="Members" className="pb-5">
      <table className="w-full">
        <thead>
          <tr className="border-b border-base-content text-left">
            <th className="py-1 font-semibold">
              Members <span className="font-normal text-soft">{count}</span>
            </th>
            <th className="font-semibold">Where</th>
            <th className="font-semibold">Before the level comes</th>
            <th className="w-20 font-semibold">Pays in</th>
            <th className="w-8">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {members.map(({ id, name, href, place, before, currency }) => (
            <tr key={id} className="border-b border-base-300">
              <td className="py-1">
                <VantageLink href={href} className="link-name">
                  {name}
                </VantageLink>
              </td>
              <td>{place}</td>
              <td className={before === 'nothing' ? 'text-soft' : ''}>{before}</td>
              <td>{currency}</td>
              <td className="text-right">
                {live && (
                  <button
                    type="button"
                    aria-label={`Remove ${name} from the group`}
                    className="px-1 text-soft hover:text-error"
                    onClick={() => void change(name, false)}
                  >
                    ×
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {count > members.length && <p className="pt-1 text-soft">and {count - members.length} more members</p>}
      {problem && (
        <p role="alert" className="pt-1 text-error">
          {problem}
        </p>
      )}
      {live &&
        (isAdding ? (
          <Unrolled className="-mx-6 mt-2">
            <RecordPicker
              label="Accounts that join the group"
              name="Members"
              hint="They keep their other groups."
              from="account"
              many
              initial=""
              onDone={(text) => change(text, true)}
              onCancel={() => setAdding(false)}
            />
          </Unrolled>
        ) : (
          <button type="button" className="py-2 link-name" onClick={() => setAdding(true)}>
            Add members
          </button>
        ))}
    </section>
  )
}
