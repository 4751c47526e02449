import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { categoryDetails, categorySentence } from './catalogue-sentences'

export const categorySheet: SheetOfKind = {
  sentence: categorySentence,
  details: categoryDetails,
  effect: () => ({ main: null, side: null }),
}
