import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { regionDetails, regionSentence } from './market-sentences'

export const regionSheet: SheetOfKind = {
  sentence: regionSentence,
  details: regionDetails,
  effect: () => ({ main: null, side: null }),
}
