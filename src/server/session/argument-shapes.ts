import { findTextFault } from '@/core/issue/text-fault'
import Joi from 'joi'

/** What actions are called with. What lies within a thing is looked at by whatever reads it. */
export const TEXT = Joi.string().allow('').max(200_000)
export const TEXTS = Joi.array().items(Joi.string().allow('').max(2_000)).max(20_000)
/** Numbers of change sets, orders and rows, and counts: as the database keeps them. */
export const NUMBER = Joi.number()
  .integer()
  .min(0)
  .max(2 ** 31 - 1)
export const NUMBERS = Joi.array().items(NUMBER).max(200_000)
export const FLAG = Joi.boolean()
export const FORM = Joi.object().instance(FormData)
export const THING = Joi.alternatives(Joi.object().unknown(), Joi.array().max(200_000))

/** What is typed in one field. */
export const TYPED = Joi.string().allow('').max(10_000)
/** Fields by name, as they are typed. */
export const TYPED_FIELDS = Joi.object().pattern(Joi.string(), Joi.string().allow('').max(200_000))

/** A thing with these fields, among others; those that may be missing say so (`optional`). */
export function thingWith(fields: Readonly<Record<string, Joi.Schema>>): Joi.ObjectSchema {
  return Joi.object(fields).unknown()
}

/** What a browser says of a passkey (WebAuthn level 3, section 5.1.8): bytes as base64url, a few kilobytes of them. */
const passkeySaid = (parts: readonly string[]) =>
  thingWith({
    id: Joi.string().max(2_000),
    response: thingWith(Object.fromEntries(parts.map((part) => [part, Joi.string().max(50_000)]))),
  })
export const PASSKEY_MADE = passkeySaid(['clientDataJSON', 'attestationObject'])
export const PASSKEY_SIGNED = passkeySaid(['clientDataJSON', 'authenticatorData', 'signature'])

const DEEPEST = 50
const MOST_FIELDS = 500
const LONGEST_FIELD = 200_000

/** Whether an action was called as its page calls it: so many arguments, of these shapes, of bounded size and real text. */
export function areArguments(shapes: readonly Joi.Schema[], given: readonly unknown[]): boolean {
  if (given.length > shapes.length) return false
  return shapes.every((shape, at) => {
    const value = given[at]
    const { error } = shape.validate(value, { convert: false, presence: 'required' })
    if (error) return false
    return value instanceof FormData ? isForm(value) : findTextFault(value, DEEPEST) === null
  })
}

function isForm(form: FormData): boolean {
  const fields = [...form.entries()]
  return (
    fields.length <= MOST_FIELDS &&
    fields.every(
      ([name, value]) =>
        findTextFault(name, 1) === null &&
        (typeof value !== 'string' || (value.length <= LONGEST_FIELD && findTextFault(value, 1) === null)),
    )
  )
}
