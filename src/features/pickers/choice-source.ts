import type { ChoiceSource } from '@/ui/picker/records/record-choices'
import Joi from 'joi'

const SOURCES: Readonly<Record<ChoiceSource, true>> = {
  ...{ account: true, group: true, category: true, 'price-family': true, 'price-list': true, channel: true },
  ...{ region: true, product: true, 'tax-class': true, tax: true, tag: true, 'channel-group': true },
  ...{ country: true, land: true, currency: true, 'iso-currency': true, 'time-zone': true },
}

/** What is chosen from, as it is sent. */
export const CHOICE_SOURCE = Joi.valid(...Object.keys(SOURCES))
