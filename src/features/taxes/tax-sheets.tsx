import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { taxClassSentence, taxDetails, taxSentence } from './tax-sentences'

export const taxClassSheet: SheetOfKind = {
  sentence: taxClassSentence,
  details: taxDetails,
  effect: () => ({ main: null, side: null }),
}

export const taxSheet: SheetOfKind = {
  sentence: taxSentence,
  details: taxDetails,
  effect: () => ({ main: null, side: null }),
}
