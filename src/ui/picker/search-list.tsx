'use client'

import type { ReactNode } from 'react'
import {
  Autocomplete,
  Header,
  Input,
  ListBox,
  ListBoxItem,
  type ListBoxProps,
  ListBoxSection,
  SearchField,
  useFilter,
} from 'react-aria-components'

/** Something to choose: its name is what is searched. */
export interface SearchListItem {
  readonly key: string
  readonly name: string
  readonly section: string
}

interface SearchListProps<Item extends SearchListItem> {
  /** What is listed, for people who cannot see it. */
  readonly label: string
  readonly searchLabel: string
  readonly placeholder: string
  readonly sections: readonly string[]
  readonly items: readonly Item[]
  readonly renderItem: (item: Item, chosen: boolean) => ReactNode
  /** Choosing: one at once, or several to tick. */
  readonly choice: Pick<
    ListBoxProps<Item>,
    'selectionMode' | 'selectedKeys' | 'onSelectionChange' | 'onAction'
  >
}

/** A list in sections that narrows while one types. */
export function SearchList<Item extends SearchListItem>(props: SearchListProps<Item>) {
  const { contains } = useFilter({ sensitivity: 'base' })
  return (
    <Autocomplete filter={contains}>
      <SearchField autoFocus aria-label={props.searchLabel} className="border-b border-base-300">
        <Input placeholder={props.placeholder} className="w-full bg-transparent px-3 py-2 outline-none" />
      </SearchField>
      <div
        role="region"
        aria-label="All of them"
        tabIndex={0}
        className="max-h-72 min-h-0 flex-1 overflow-auto"
      >
        <ListBox
          aria-label={props.label}
          {...props.choice}
          className="py-1 outline-none"
          renderEmptyState={() => <p className="px-3 py-2 text-soft">No results.</p>}
        >
          {props.sections.map((section) => (
            <ListBoxSection key={section} id={section}>
              <Header className="px-3 pt-2 pb-0.5 text-2xs font-semibold text-soft">{section}</Header>
              {props.items
                .filter((item) => item.section === section)
                .map((item) => (
                  <ListBoxItem
                    key={item.key}
                    id={item.key}
                    textValue={item.name}
                    className="flex cursor-pointer gap-2 px-3 py-1 outline-none data-[focused]:bg-chosen"
                  >
                    {({ isSelected }) => props.renderItem(item, isSelected)}
                  </ListBoxItem>
                ))}
            </ListBoxSection>
          ))}
        </ListBox>
      </div>
    </Autocomplete>
  )
}
