import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { productDetails, productSentence, variantDetails, variantSentence } from './catalogue-sentences'

export const productRecordSheet: SheetOfKind = {
  sentence: productSentence,
  details: productDetails,
  effect: () => ({ main: null, side: null }),
}

export const variantSheet: SheetOfKind = {
  sentence: variantSentence,
  details: variantDetails,
  effect: () => ({ main: null, side: null }),
}
