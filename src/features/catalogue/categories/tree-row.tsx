'use client'

import { VantageLink } from '@/ui/frame/vantage-link'
import { recordHref } from '@/ui/frame/record-href'
import { IconChevronRight, IconGripVertical } from '@tabler/icons-react'
import { Button } from 'react-aria-components'
import type { BranchRule, RuleColumn, SomeRules, TreeCategory } from './category-tree-view'

export const TREE_COLUMNS =
  'grid grid-cols-[minmax(0,2.7fr)_3.5rem_minmax(0,1.9fr)_minmax(0,1fr)_minmax(0,1.2fr)_minmax(0,1.2fr)_minmax(0,0.8fr)] items-center gap-x-3'

const RULE_COLUMNS: readonly RuleColumn[] = ['lists', 'limits', 'access', 'adjustments']
const NO_RULES: SomeRules = { shown: [], more: 0 }

interface TreeRowProps {
  readonly category: TreeCategory
  readonly level: number
  readonly hasChildren: boolean
  /** Where it stood, while it is weighed elsewhere. */
  readonly isLeft: boolean
  readonly isMoving: boolean
  readonly mayMove: boolean
}

/** One branch of the tree: its name, how much is in it, and what hangs on it. */
export function TreeRow({ category, level, hasChildren, isLeft, isMoving, mayMove }: TreeRowProps) {
  const { name, code, archived } = category
  return (
    <div
      className={`${TREE_COLUMNS} border-b border-base-300 py-0.5 ${isLeft ? 'bg-hatched text-soft' : ''} ${isMoving ? 'bg-chosen' : ''} ${archived ? 'text-soft' : ''}`}
    >
      <span className="flex min-w-0 items-center gap-1" style={{ paddingLeft: `${(level - 1) * 1.125}rem` }}>
        {mayMove && !isLeft ? (
          <Button slot="drag" aria-label={`Move ${name}`} className="cursor-grab text-soft">
            <IconGripVertical size={14} aria-hidden />
          </Button>
        ) : (
          <span className="w-3.5" />
        )}
        {hasChildren ? (
          <Button slot="chevron" className="group/chevron text-soft" aria-label={`What is below ${name}`}>
            <IconChevronRight size={14} className="in-data-expanded:rotate-90" aria-hidden />
          </Button>
        ) : (
          <span className="w-3.5" />
        )}
        {isLeft ? (
          <s className="truncate">{name}</s>
        ) : (
          <VantageLink
            href={recordHref('categories', code)}
            tabIndex={-1}
            draggable={false}
            className={`truncate hover:underline ${isMoving ? 'font-semibold' : ''}`}
            title={name}
          >
            {name}
          </VantageLink>
        )}
        {archived && <span className="text-2xs">archived</span>}
      </span>
      <span className="text-right text-soft tabular-nums">{category.variants}</span>
      {RULE_COLUMNS.map((column) => (
        <RuleLinks key={column} rules={isLeft ? NO_RULES : category.rules[column]} />
      ))}
      <span className="truncate text-soft">{isLeft ? '' : category.taxClass}</span>
    </div>
  )
}

function RuleLinks({ rules: { shown, more } }: { readonly rules: SomeRules }) {
  return (
    <span className="truncate" title={shown.map(ruleText).join(', ')}>
      {shown.map((rule, at) => (
        <span key={`${rule.href} ${rule.isOut}`}>
          {at > 0 && ', '}
          <VantageLink
            href={rule.href}
            tabIndex={-1}
            draggable={false}
            className={rule.isOut ? 'text-error hover:underline' : 'link-name'}
          >
            {ruleText(rule)}
          </VantageLink>
        </span>
      ))}
      {more > 0 && <span className="text-soft">, {more} more</span>}
    </span>
  )
}

function ruleText({ name, isOut }: BranchRule): string {
  return isOut ? `not in ${name}` : name
}
