import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { accountDetails, accountSentence } from './buyer-sentences'

export const accountSheet: SheetOfKind = {
  sentence: accountSentence,
  details: accountDetails,
  effect: () => ({ main: null, side: null }),
}
