import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { contractDetails, contractSentence } from './contract-sentence'

export const contractSheet: SheetOfKind = {
  sentence: contractSentence,
  details: contractDetails,
  effect: () => ({ main: null, side: null }),
}
