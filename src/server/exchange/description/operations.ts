import type { KeyScope } from '@/core/staff/key-scope'

/** An example of a request, and what it comes to: examples are asked in tests. */
export interface OperationExample {
  readonly name: string
  /** Behind the path, with its question mark. */
  readonly query?: string
  readonly body?: unknown
  /** Some of what the answer holds. */
  readonly answer: unknown
}

/** One thing a program can ask, as it is told to people and to machines. */
export interface Operation {
  readonly id: string
  readonly method: 'get' | 'post' | 'put'
  readonly path: string
  /** What a key needs; `null` where anybody may ask. */
  readonly scope: KeyScope | null
  readonly summary: string
  readonly about: string
  readonly parameters: readonly {
    readonly name: string
    readonly in: 'query' | 'header'
    readonly about: string
    readonly schema: object
    readonly isRequired?: true
  }[]
  /** Name of the schema of the body. */
  readonly body?: string
  readonly answers: readonly {
    readonly status: number
    readonly about: string
    readonly type?: string
    /** Name of a schema, or one. */
    readonly schema?: string | object
  }[]
  readonly examples: readonly OperationExample[]
}

const text = { type: 'string' } as const
const PROBLEMS = {
  malformed: { status: 400, about: 'What was sent is not what is taken', schema: 'Problem' },
  tooMuch: { status: 413, about: 'More than is taken at once', schema: 'Problem' },
} as const

/** Everything programs can ask, in the order it is told. */
export const OPERATIONS: readonly Operation[] = [
  {
    ...{ id: 'askPrices', method: 'post', path: '/api/prices', scope: 'prices:ask' },
    summary: 'Ask prices of items and carts',
    about:
      'An array of up to 1,000 questions in, an array of answers out, in the same order. A question with `lines` is a cart. A question that cannot be answered has `error` instead, and keeps none of the others from theirs.',
    parameters: [],
    body: 'Questions',
    answers: [
      { status: 200, about: 'An answer for each question', schema: 'Answers' },
      PROBLEMS.malformed,
      PROBLEMS.tooMuch,
    ],
    examples: [
      {
        name: 'One item, for a bee farm that takes three',
        body: [{ id: 'a', as: { group: 'bee-farms' }, sku: 'FR-BR-PF', quantity: '3' }],
        answer: [{ id: 'a', currency: 'EUR', see: true, buy: true, unit: { net: '22.80' } }],
      },
      {
        name: 'A cart of an account',
        body: [
          {
            ...{ id: 'b', as: { account: 'fennmoor' } },
            lines: [{ sku: 'FR-BR-PF', quantity: '24' }, { sku: 'TL-FG' }],
          },
        ],
        answer: [{ id: 'b', currency: 'EUR', canOrder: true }],
      },
      {
        name: 'A slip of the pen',
        body: [{ id: 'c', as: { guest: true }, sku: 'FR-BR-PX' }],
        answer: [{ id: 'c', error: { code: 'unknown-sku', where: 'sku', nearest: 'FR-BR-PA' } }],
      },
    ],
  },
  {
    ...{ id: 'readChanges', method: 'get', path: '/api/changes', scope: 'store:read' },
    summary: 'Read what was changed since a position',
    about:
      'Every change of the configuration, with what it was and what it is, in order. Begin without `since`, then go on with `next`. With `as=jsonl` the whole history behind `since` comes as JSON Lines.',
    parameters: [
      {
        name: 'since',
        in: 'query',
        about: 'A position as `next` gave it, or the number of a change set',
        schema: text,
      },
      {
        ...{ name: 'limit', in: 'query', about: 'Changes to a page' },
        schema: { type: 'integer', minimum: 1, maximum: 1_000, default: 1_000 },
      },
      {
        name: 'as',
        in: 'query',
        about: 'All of it as JSON Lines',
        schema: { type: 'string', enum: ['jsonl'] },
      },
    ],
    answers: [{ status: 200, about: 'A page of changes', schema: 'Changes' }, PROBLEMS.malformed],
    examples: [
      { name: 'The first of all', query: '?limit=1', answer: { isLast: false, changes: [{ position: 0 }] } },
    ],
  },
  {
    ...{ id: 'readStore', method: 'get', path: '/api/store', scope: 'store:read' },
    summary: 'Read the whole configuration',
    about:
      'One document. Its ETag says which state of the store it is; `If-None-Match` with it reads nothing when nothing changed.',
    parameters: [
      {
        ...{ name: 'stock', in: 'query', about: 'With what is on hand of each variant' },
        schema: { type: 'string', enum: ['true'] },
      },
      { name: 'If-None-Match', in: 'header', about: 'The ETag that was read last', schema: text },
    ],
    answers: [
      { status: 200, about: 'The store document', schema: 'StoreDocument' },
      { status: 304, about: 'Nothing has changed' },
    ],
    examples: [{ name: 'All of it', answer: { format: 'steppe-store', version: 1 } }],
  },
  {
    ...{ id: 'writeStore', method: 'put', path: '/api/store', scope: 'store:write' },
    summary: 'Make the store what a document says',
    about:
      'As one change set, which can be taken back. What the document does not hold is removed; what it says already is left alone.',
    parameters: [
      {
        ...{
          name: 'If-Match',
          in: 'header',
          about: 'The ETag of the document this one was made from, or `*`',
        },
        ...{ schema: text, isRequired: true },
      },
    ],
    body: 'StoreDocument',
    answers: [
      {
        status: 200,
        about: 'How many records changed',
        schema: { type: 'object', properties: { changed: { type: 'integer' } } },
      },
      { status: 412, about: 'The store has moved on' },
      { status: 422, about: 'What is wrong with it, with each place' },
      { status: 428, about: 'Without If-Match', schema: 'Problem' },
    ],
    examples: [],
  },
  {
    ...{ id: 'readFeed', method: 'get', path: '/shop/feed.json', scope: null },
    summary: 'Read what guests may see',
    about:
      'Products and offers in the words of schema.org (a DataFeed as JSON-LD), the same for all who ask.',
    parameters: [],
    answers: [{ status: 200, about: 'The feed', type: 'application/ld+json', schema: { type: 'object' } }],
    examples: [{ name: 'All of it', answer: { '@context': 'https://schema.org', '@type': 'DataFeed' } }],
  },
]
