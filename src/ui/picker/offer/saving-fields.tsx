'use client'

import type { MoneyInput, SavingInput, SetSavingInput } from '@/core/notation/offer-text'
import type { ReactNode } from 'react'
import { AmountInput } from '../amount-input'

type AnySaving = SavingInput | SetSavingInput | { readonly kind: 'free' }
type SavingKind = AnySaving['kind']

const NAMES: Readonly<Record<SavingKind, string>> = {
  percent: 'a percentage off',
  amount: 'an amount off',
  price: 'one price',
  'cheapest-free': 'the cheapest free',
  free: 'free',
}

/** What is said in one line, with its name before it. */
export function Row({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
      <span className="w-32 text-soft">{name}</span>
      {children}
    </div>
  )
}

/** Takes one of several rows away. */
export function RemoveButton({ label, onRemove }: { readonly label: string; readonly onRemove: () => void }) {
  return (
    <button type="button" aria-label={label} className="px-1 text-soft hover:text-error" onClick={onRemove}>
      ×
    </button>
  )
}

const TAB =
  'border-b border-transparent text-secondary aria-pressed:border-base-content aria-pressed:font-semibold aria-pressed:text-base-content'

/** One of a few, side by side. */
export function Options<Value extends string | boolean>({
  label,
  options,
  value,
  onChange,
}: {
  readonly label: string
  readonly options: readonly (readonly [Value, string])[]
  readonly value: Value
  readonly onChange: (value: Value) => void
}) {
  return (
    <span role="group" aria-label={label} className="flex flex-wrap gap-x-3">
      {options.map(([each, name]) => (
        <button
          key={String(each)}
          type="button"
          aria-pressed={each === value}
          className={TAB}
          onClick={() => onChange(each)}
        >
          {name}
        </button>
      ))}
    </span>
  )
}

interface SavingFigureProps<Saving extends AnySaving> {
  readonly saving: Saving
  readonly currencies: readonly string[]
  readonly onChange: (saving: Saving) => void
}

interface SavingFieldsProps<Saving extends AnySaving> extends SavingFigureProps<Saving> {
  /** The kinds there are to choose from. */
  readonly kinds: readonly Saving['kind'][]
}

/** How much is taken off: its kind, its figure, and of an amount what stands in other currencies. */
export function SavingFields<Saving extends AnySaving>({
  saving,
  currencies,
  kinds,
  onChange,
}: SavingFieldsProps<Saving>) {
  return (
    <>
      <Row name="It saves">
        <Options
          label="It saves"
          options={kinds.map((kind) => [kind, NAMES[kind]] as const)}
          value={saving.kind}
          onChange={(kind: Saving['kind']) => onChange(switchedTo<Saving>(kind, saving))}
        />
      </Row>
      <SavingFigure saving={saving} currencies={currencies} onChange={onChange} />
    </>
  )
}

/** The figure of a saving alone. */
export function SavingFigure<Saving extends AnySaving>({
  saving,
  currencies,
  onChange,
}: SavingFigureProps<Saving>) {
  // The kind stays what it is: only its figure is put.
  const put = (figure: object) => onChange({ ...saving, ...figure })
  switch (saving.kind) {
    case 'percent':
      return (
        <Row name="Percent">
          <AmountInput label="Percent off" value={saving.percent} onChange={(percent) => put({ percent })} />
          <span>%</span>
        </Row>
      )
    case 'amount':
      return (
        <MoneyFields
          name="Amount off"
          money={saving.amount}
          currencies={currencies}
          onChange={(amount) => put({ amount })}
        />
      )
    case 'price':
      return (
        <MoneyFields
          name="Price"
          money={saving.price}
          currencies={currencies}
          onChange={(price) => put({ price })}
        />
      )
    case 'cheapest-free':
      return (
        <Row name="How many">
          <AmountInput
            label="How many are free"
            value={String(saving.count)}
            onChange={(count) => put({ count: Number(count) })}
          />
          <span>of each set</span>
        </Row>
      )
    case 'free':
      return null
  }
}

/** An amount, and what stands in its place in other currencies instead of the converted one. */
export function MoneyFields({
  name,
  money,
  currencies,
  onChange,
}: {
  readonly name: string
  readonly money: MoneyInput
  readonly currencies: readonly string[]
  readonly onChange: (money: MoneyInput) => void
}) {
  const all = [...new Set([...currencies, ...Object.keys(money.own)])]
  const without = (code: string) =>
    Object.fromEntries(Object.entries(money.own).filter(([each]) => each !== code))
  return (
    <Row name={name}>
      <AmountInput label={name} value={money.amount} onChange={(amount) => onChange({ ...money, amount })} />
      {all.map((code) => (
        <label key={code} className="flex items-center gap-1.5 text-soft">
          {code}
          <AmountInput
            label={`${name} in ${code}`}
            placeholder="converted"
            value={money.own[code] ?? ''}
            onChange={(amount) => onChange({ ...money, own: { ...money.own, [code]: amount } })}
            onClear={() => onChange({ ...money, own: without(code) })}
          />
        </label>
      ))}
    </Row>
  )
}

/** Another kind of saving, with a figure to begin with where the one before has none that fits. */
export function switchedTo<Saving extends AnySaving>(kind: Saving['kind'], from: AnySaving): Saving {
  // Of the kinds asked for, what is begun is one.
  return begun(kind, from) as Saving
}

function begun(kind: SavingKind, from: AnySaving): AnySaving {
  const money = from.kind === 'amount' ? from.amount : from.kind === 'price' ? from.price : null
  switch (kind) {
    case 'percent':
      return { kind, percent: from.kind === 'percent' ? from.percent : '10' }
    case 'amount':
      return { kind, amount: money ?? { amount: '5', own: {} } }
    case 'price':
      return { kind, price: money ?? { amount: '10', own: {} } }
    case 'cheapest-free':
      return { kind, count: from.kind === 'cheapest-free' ? from.count : 1 }
    case 'free':
      return { kind }
  }
}
