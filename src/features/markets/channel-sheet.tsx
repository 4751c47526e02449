import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { channelDetails, channelSentence } from './market-sentences'

export const channelSheet: SheetOfKind = {
  sentence: channelSentence,
  details: channelDetails,
  effect: () => ({ main: null, side: null }),
}
