import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { passcodeDetails, passcodeSentence } from './access-sentences'

export const passcodeSheet: SheetOfKind = {
  sentence: passcodeSentence,
  details: passcodeDetails,
  effect: () => ({ main: null, side: null }),
}
