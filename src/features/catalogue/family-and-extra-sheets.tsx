import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { categoryDetails, extraDetails, extraSentence, familySentence } from './catalogue-sentences'

export const familySheet: SheetOfKind = {
  sentence: familySentence,
  details: categoryDetails,
  effect: () => ({ main: null, side: null }),
}

export const extraSheet: SheetOfKind = {
  sentence: extraSentence,
  details: extraDetails,
  effect: () => ({ main: null, side: null }),
}
