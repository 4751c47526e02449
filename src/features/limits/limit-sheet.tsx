import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { limitDetails, limitSentence } from './limit-sentence'

export const limitSheet: SheetOfKind = {
  sentence: limitSentence,
  details: limitDetails,
  effect: () => ({ main: null, side: null }),
}
