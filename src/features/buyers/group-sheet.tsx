import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { groupDetails, groupSentence } from './buyer-sentences'

export const groupSheet: SheetOfKind = {
  sentence: groupSentence,
  details: groupDetails,
  effect: () => ({ main: null, side: null }),
}
