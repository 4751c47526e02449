import 'server-only'

import { ownAddress } from '../../doors/own-address'
import { documentSchema } from '../document-schema'
import { MOST_QUESTIONS } from '../question-shape'
import { type Operation, OPERATIONS } from './operations'

const decimal = {
  type: 'string',
  pattern: '^-?\\d+(\\.\\d+)?$',
  description: 'Decimal text with a point',
} as const
const code = { type: 'string', maxLength: 100 } as const
const maybe = (schema: object) => ({ anyOf: [schema, { type: 'null' }] })
const amounts = { type: 'object', properties: { net: decimal, tax: decimal, gross: decimal } } as const
const line = {
  sku: code,
  quantity: { anyOf: [decimal, { type: 'number' }] },
  extras: { type: 'array', items: code },
}

const asked = {
  id: code,
  as: {
    type: 'object',
    description: 'Who asks: one of the three',
    properties: { account: code, group: code, guest: { const: true } },
    minProperties: 1,
    maxProperties: 1,
  },
  passcode: maybe(code),
  channel: maybe(code),
  deliverTo: maybe({
    type: 'object',
    properties: { country: code, state: maybe(code), postcode: maybe(code), city: maybe(code) },
    required: ['country'],
  }),
  currency: maybe(code),
  at: maybe({ type: 'string', description: 'An instant with its offset (ISO 8601)' }),
  in: maybe({ type: 'string', description: 'Prices as a draft would leave them: draft:CODE' }),
  codes: { type: 'array', items: code },
  payment: code,
  take: { type: 'array', items: code },
  leave: { type: 'array', items: code },
}

const SCHEMAS: Readonly<Record<string, object>> = {
  Questions: {
    type: 'array',
    maxItems: MOST_QUESTIONS,
    items: {
      anyOf: [{ $ref: '#/components/schemas/ItemQuestion' }, { $ref: '#/components/schemas/CartQuestion' }],
    },
  },
  ItemQuestion: { type: 'object', properties: { ...asked, ...line }, required: ['id', 'as', 'sku'] },
  CartQuestion: {
    type: 'object',
    properties: {
      ...asked,
      lines: {
        type: 'array',
        ...{ minItems: 1, maxItems: 1_000 },
        items: { type: 'object', properties: line, required: ['sku'] },
      },
    },
    required: ['id', 'as', 'lines'],
  },
  Answers: {
    type: 'array',
    items: {
      type: 'object',
      description: 'docs/formats.md says what each field means',
      properties: {
        id: code,
        currency: code,
        ...Object.fromEntries(
          ['see', 'seePrice', 'buy', 'quote', 'canOrder'].map((each) => [each, { type: 'boolean' }]),
        ),
        unit: maybe(amounts),
        total: maybe(amounts),
        breaks: { type: 'array', items: { type: 'object' } },
        lines: { type: 'array', items: { type: 'object' } },
        trace: { type: 'object' },
        error: { $ref: '#/components/schemas/QuestionFault' },
      },
      required: ['id'],
    },
  },
  QuestionFault: {
    type: 'object',
    properties: { code, where: code, value: code, nearest: maybe(code), message: { type: 'string' } },
    required: ['code', 'where', 'value', 'nearest', 'message'],
  },
  Changes: {
    type: 'object',
    properties: {
      changes: {
        type: 'array',
        items: {
          type: 'object',
          properties: {
            changeSet: { type: 'integer' },
            position: { type: 'integer' },
            at: { type: 'string', format: 'date-time' },
            author: { type: 'string' },
            note: { type: 'string' },
            undoes: maybe({ type: 'integer' }),
            kind: code,
            record: code,
            before: maybe({ type: 'object' }),
            after: maybe({ type: 'object' }),
          },
          required: [
            'changeSet',
            'position',
            'at',
            'author',
            'note',
            'undoes',
            'kind',
            'record',
            'before',
            'after',
          ],
        },
      },
      next: { type: 'string' },
      isLast: { type: 'boolean' },
    },
    required: ['changes', 'next', 'isLast'],
  },
  Problem: {
    type: 'object',
    description: 'RFC 9457, with a code for programs',
    properties: {
      type: { type: 'string' },
      title: { type: 'string' },
      status: { type: 'integer' },
      detail: { type: 'string' },
      code,
    },
    required: ['type', 'title', 'status', 'detail', 'code'],
  },
}

/** The description of everything programs can ask (OpenAPI 3.1.1). */
export function openApi(): object {
  const paths: Record<string, Record<string, object>> = {}
  for (const operation of OPERATIONS) (paths[operation.path] ??= {})[operation.method] = described(operation)
  return {
    openapi: '3.1.1',
    info: {
      ...{ title: 'Steppe', version: '1' },
      description:
        'Who buys what at which price. Fields are added, and never renamed or given another meaning.',
    },
    servers: [{ url: ownAddress() }],
    security: [{ key: [] }],
    paths,
    components: {
      securitySchemes: {
        key: {
          type: 'http',
          scheme: 'bearer',
          description: 'A key of Programs; each operation names the scope it needs.',
        },
      },
      schemas: { ...SCHEMAS, StoreDocument: withoutDialect(documentSchema()) },
    },
  }
}

function withoutDialect(schema: object): object {
  return Object.fromEntries(Object.entries(schema).filter(([name]) => name !== '$schema'))
}

function described({ id, scope, summary, about, parameters, body, answers, examples }: Operation): object {
  const schemaOf = (schema: string | object) =>
    typeof schema === 'string' ? { $ref: `#/components/schemas/${schema}` } : schema
  const withBodies = examples.filter((each) => each.body !== undefined)
  return {
    ...{ operationId: id, summary },
    description: `${about}${scope === null ? '' : `\n\nScope of the key: \`${scope}\`.`}`,
    ...(scope === null && { security: [] }),
    ...(parameters.length > 0 && {
      parameters: parameters.map(({ name, in: place, about: told, schema, isRequired }) => ({
        ...{ name, in: place, description: told, schema },
        ...(isRequired && { required: true }),
      })),
    }),
    ...(body && {
      requestBody: {
        required: true,
        content: {
          'application/json': {
            schema: schemaOf(body),
            ...(withBodies.length > 0 && {
              examples: Object.fromEntries(
                withBodies.map((each, at) => [`example${at + 1}`, { summary: each.name, value: each.body }]),
              ),
            }),
          },
        },
      },
    }),
    responses: Object.fromEntries([
      ...answers.map(({ status, about: told, type, schema }) => [
        String(status),
        {
          description: told,
          ...(schema && {
            content: {
              [type ?? (status < 400 ? 'application/json' : 'application/problem+json')]: {
                schema: schemaOf(schema),
              },
            },
          }),
        },
      ]),
      ...(scope === null ? [] : REFUSED),
    ]),
  }
}

const problem = (description: string) => ({
  description,
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
})
const REFUSED = [
  ['401', problem('No key, or one there is not')],
  ['403', problem('The key lacks the scope')],
  ['429', problem('Asked too often; `Retry-After` says when to ask again')],
  ['503', problem('The database does not answer just now; `Retry-After` says when to ask again')],
] as const
