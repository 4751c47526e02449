import 'server-only'

import type { SheetOfKind } from '@/sheet/record/load-sheet'
import { currencySentence } from './currency-sentence'

export const currencySheet: SheetOfKind = {
  sentence: currencySentence,
  details: () => [],
  effect: () => ({ main: null, side: null }),
}
