import 'server-only'

import type { EditableKind } from '@/sheet/record/sections'
import type { FieldRule } from './field-rule'
import { SETTINGS_FIELDS } from './store-fields'
import { GROUP_FIELDS, ACCOUNT_FIELDS, CONTRACT_FIELDS } from './buyer-fields'
import { CURRENCY_FIELDS, REGION_FIELDS, CHANNEL_FIELDS, TAX_CLASS_FIELDS, TAX_FIELDS } from './place-fields'
import {
  LIMIT_FIELDS,
  ACCESS_RULE_FIELDS,
  PASSCODE_FIELDS,
  ADJUSTMENT_FIELDS,
  PRICE_LIST_FIELDS,
} from './rule-fields'
import { PROOF_FIELDS } from './proof-fields'
import { PROMOTION_FIELDS } from './promotion-fields'
import {
  CATEGORY_FIELDS,
  PRICE_FAMILY_FIELDS,
  EXTRA_FIELDS,
  PRODUCT_FIELDS,
  VARIANT_FIELDS,
} from './catalogue-fields'

/** The fields of each kind. */
export const RECORD_FIELDS: Readonly<Record<EditableKind, readonly FieldRule[]>> = {
  settings: SETTINGS_FIELDS,
  group: GROUP_FIELDS,
  account: ACCOUNT_FIELDS,
  contract: CONTRACT_FIELDS,
  currency: CURRENCY_FIELDS,
  region: REGION_FIELDS,
  channel: CHANNEL_FIELDS,
  'tax-class': TAX_CLASS_FIELDS,
  tax: TAX_FIELDS,
  limit: LIMIT_FIELDS,
  'access-rule': ACCESS_RULE_FIELDS,
  passcode: PASSCODE_FIELDS,
  adjustment: ADJUSTMENT_FIELDS,
  proof: PROOF_FIELDS,
  promotion: PROMOTION_FIELDS,
  category: CATEGORY_FIELDS,
  'price-family': PRICE_FAMILY_FIELDS,
  extra: EXTRA_FIELDS,
  product: PRODUCT_FIELDS,
  variant: VARIANT_FIELDS,
  'price-list': PRICE_LIST_FIELDS,
}
