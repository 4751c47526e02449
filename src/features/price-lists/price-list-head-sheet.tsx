import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { priceListDetails, priceListSentence } from './price-list-sentence'

export const priceListHeadSheet: SheetOfKind = {
  sentence: priceListSentence,
  details: priceListDetails,
  effect: () => ({ main: null, side: null }),
}
