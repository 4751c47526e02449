import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { storeDetails, storeSentence } from './store-sentence'

export const storeSheet: SheetOfKind = {
  sentence: storeSentence,
  details: storeDetails,
  effect: () => ({ main: null, side: null }),
}
