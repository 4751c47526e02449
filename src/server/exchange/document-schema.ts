import 'server-only'

import { RECORD_KINDS } from '@/core/issue/issue'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import Joi from 'joi'
import { RECORD_SCHEMAS } from '../records/record-schema'
import { SECTIONS } from './store-document'

type Json = { [field: string]: unknown }

/** A count may stand in a variant, though it is no part of it. */
const SCHEMAS: typeof RECORD_SCHEMAS = {
  ...RECORD_SCHEMAS,
  variant: (RECORD_SCHEMAS.variant as Joi.ObjectSchema).keys({ stock: Joi.string().allow(null).optional() }),
}

/** The JSON Schema (draft 2020-12) of the store document, made from the schemas records are checked with. */
export function documentSchema(): object {
  const sections = RECORD_KINDS.map((kind) => {
    const record = withDefaults(tightened(schemaOf(SCHEMAS[kind])) as Json, RECORD_DEFAULTS[kind])
    return [SECTIONS[kind], kind === 'settings' ? record : { type: 'array', items: record }]
  })
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Store document',
    description: 'The whole configuration of a Steppe store. docs/formats.md says what each part means.',
    type: 'object',
    properties: {
      format: { const: 'steppe-store' },
      version: { const: 1 },
      ...Object.fromEntries(sections),
    },
    required: ['format', 'version', 'settings'],
    additionalProperties: false,
  }
}

interface WithJsonSchema {
  readonly '~standard': { readonly jsonSchema: { input(options: { target: string }): object } }
}

function schemaOf(schema: Joi.Schema): object {
  return (schema as unknown as WithJsonSchema)['~standard'].jsonSchema.input({ target: 'draft-2020-12' })
}

/**
 * Alternatives that differ by their kind come out with an empty one that allows everything: it is left out. Of a few values or none the
 * none is missing among them: it is put there.
 */
function tightened(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(tightened)
  if (schema === null || typeof schema !== 'object') return schema
  const fields = Object.entries(schema).map(([field, value]) => {
    if (field === 'enum' && Array.isArray(value) && isNullable(schema) && !value.includes(null))
      return [field, [...(value as unknown[]), null]]
    if (field !== 'anyOf' || !Array.isArray(value)) return [field, tightened(value)]
    const strict = value.filter(
      (each: Json) => each['type'] !== 'object' || each['additionalProperties'] === false,
    )
    return [field, (strict.length > 0 ? strict : value).map(tightened)]
  })
  return Object.fromEntries(fields)
}

function isNullable(schema: object): boolean {
  const { type } = schema as Json
  return Array.isArray(type) && type.includes('null')
}

/** What has a default may be left out; ids follow from codes, and who says nothing of a count leaves it alone. */
function withDefaults(schema: Json, defaults: Readonly<Record<string, unknown>>): Json {
  const properties = schema['properties'] as Json
  const follows = new Set(['id', 'currency', 'per', 'priceDigits', 'stock', ...Object.keys(defaults)])
  return {
    ...schema,
    properties: Object.fromEntries(
      Object.entries(properties).map(([field, value]) => [
        field,
        field in defaults ? { ...(value as Json), default: defaults[field] } : value,
      ]),
    ),
    required: Object.keys(properties).filter((field) => !follows.has(field)),
  }
}
