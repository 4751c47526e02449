import 'server-only'

import { accessRuleSheet } from '@/features/access/access-rule-sheet'
import { passcodeSheet } from '@/features/access/passcode-sheet'
import { adjustmentSheet } from '@/features/adjustments/adjustment-sheet'
import { accountSheet } from '@/features/buyers/account-sheet'
import { groupSheet } from '@/features/buyers/group-sheet'
import { categorySheet } from '@/features/catalogue/category-sheet'
import { extraSheet, familySheet } from '@/features/catalogue/family-and-extra-sheets'
import { contractSheet } from '@/features/contracts/contract-sheet'
import { currencySheet } from '@/features/currencies/currency-sheet'
import { limitSheet } from '@/features/limits/limit-sheet'
import { channelSheet } from '@/features/markets/channel-sheet'
import { regionSheet } from '@/features/markets/region-sheet'
import { priceListSheet } from '@/features/price-lists/price-list-sheet'
import { productSheet } from '@/features/products/product-sheet'
import { variantSheet } from '@/features/products/variant-sheet'
import { proofSheet } from '@/features/proofs/proof-sheet'
import { promotionSheet } from '@/features/promotions/promotion-sheet'
import { storeSheet } from '@/features/store/store-sheet'
import { taxClassSheet, taxSheet } from '@/features/taxes/tax-sheets'
import type { SheetOfKind } from '@/sheet/record/load-sheet'
import type { EditableKind } from '@/sheet/record/sections'

/** How the sheet of each kind is drawn. */
export const SHEETS: Readonly<Record<EditableKind, SheetOfKind>> = {
  settings: storeSheet,
  account: accountSheet,
  group: groupSheet,
  contract: contractSheet,
  currency: currencySheet,
  region: regionSheet,
  channel: channelSheet,
  adjustment: adjustmentSheet,
  promotion: promotionSheet,
  proof: proofSheet,
  'tax-class': taxClassSheet,
  tax: taxSheet,
  limit: limitSheet,
  'access-rule': accessRuleSheet,
  passcode: passcodeSheet,
  category: categorySheet,
  'price-family': familySheet,
  extra: extraSheet,
  product: productSheet,
  variant: variantSheet,
  'price-list': priceListSheet,
}
