import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { accessRuleDetails, accessRuleSentence } from './access-sentences'

export const accessRuleSheet: SheetOfKind = {
  sentence: accessRuleSentence,
  details: accessRuleDetails,
  effect: () => ({ main: null, side: null }),
}
