import Joi from 'joi'

/** A line of an order as staff write it down. */
export interface DeskLine {
  readonly sku: string
  /** Codes. */
  readonly extras: readonly string[]
  /** As they were typed. */
  readonly quantity: string
  /** Set by hand, as it was typed; empty for the buyer's own. */
  readonly price: string
  /** Why it was. */
  readonly reason: string
}

/** An order as staff write it down: nothing of it counts before it is placed. */
export interface DeskContent {
  /** Code; empty for somebody without an account. */
  readonly account: string
  /** Address of the person who orders; empty for nobody in particular. */
  readonly person: string
  /** Code; empty for the store's first. */
  readonly channel: string
  readonly delivery: 'collect' | 'deliver'
  /** Position among the account's addresses. */
  readonly address: number
  readonly payment: 'card' | 'terms'
  readonly lines: readonly DeskLine[]
  /** What was said to offers, by the promotion's code. */
  readonly choices: Readonly<Record<string, 'taken' | 'left'>>
  readonly reference: string
  readonly note: string
}

export const EMPTY_DESK: DeskContent = {
  ...{ account: '', person: '', channel: '', delivery: 'collect', address: 0, payment: 'terms' },
  ...{ lines: [], choices: {}, reference: '', note: '' },
}

const MOST_DESK_LINES = 500

const word = Joi.string().allow('').max(200).required()

const CONTENT = Joi.object({
  account: word,
  person: word,
  channel: word,
  delivery: Joi.valid('collect', 'deliver').required(),
  address: Joi.number().integer().min(0).max(1_000).required(),
  payment: Joi.valid('card', 'terms').required(),
  lines: Joi.array()
    .items(
      Joi.object({
        sku: word,
        extras: Joi.array().items(Joi.string().max(100)).max(20).required(),
        quantity: word,
        price: word,
        reason: word,
      }),
    )
    .max(MOST_DESK_LINES)
    .required(),
  choices: Joi.object().pattern(Joi.string().max(100), Joi.valid('taken', 'left')).max(200).required(),
  reference: Joi.string().allow('').max(60).required(),
  note: Joi.string().allow('').max(300).required(),
}).required()

/** What was submitted, or kept, as an order of the desk; `null` where it is none. */
export function parseDesk(submitted: unknown): DeskContent | null {
  const { error, value } = CONTENT.validate(submitted, { convert: false }) as {
    readonly error?: Error
    readonly value: DeskContent
  }
  return error ? null : value
}
