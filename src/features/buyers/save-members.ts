'use server'

import { FLAG, TEXT } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { findNamed, namesOf } from '@/core/notation/named-text'
import { findNearest } from '@/core/issue/issue'
import { commit } from '@/server/changes/commit'
import { revisionOf } from '@/server/views/view'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentInstant } from '@/server/clock'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { refresh } from 'next/cache'

/** Puts accounts into a group, by their names between commas, or takes one out; resolves to what is wrong. */
export const changeMembers = merchantAction(
  'drafts:edit',
  [TEXT, TEXT, FLAG],
  async (group: string, names: string, isMember: boolean): Promise<string | null> => {
    const view = await currentView()
    const { store } = view.prepared
    const found = store.group.get(group)
    if (!found) return 'There is no such group any more.'
    const accounts = []
    for (const name of names
      .split(',')
      .map((part) => part.trim())
      .filter(Boolean)) {
      const account = findNamed(store.account, name)
      if (!account) {
        const nearest = findNearest(name, namesOf(store.account))
        return `There is no account “${name}”.${nearest ? ` Did you mean ${nearest}?` : ''}`
      }
      accounts.push(account)
    }
    const requests = accounts.map((account) => ({
      kind: 'account' as const,
      id: account.id,
      seen: revisionOf(view, 'account', account.id),
      after: {
        ...account,
        groups: isMember
          ? [...new Set([...account.groups, group])]
          : account.groups.filter((each) => each !== group),
      },
    }))
    if (requests.length === 0) return 'Type the name of an account.'
    const outcome = await commit(view, requests, {
      author: await currentAuthor(),
      note: `${accounts.map(({ name }) => name).join(', ')} ${isMember ? 'joined' : 'left'} ${found.name}`,
      at: currentInstant(),
    })
    if (!outcome.ok) {
      const refusal = toRefusal(outcome)
      return refusal.code === 'nothing-to-change' ? 'They are a member already.' : refusalSentence(refusal)
    }
    refresh()
    return null
  },
)
