import { type CompiledSchedule, compileSchedule } from '../../predicates/when'
import type { TaxBasis } from '../../price/based-amount'
import type { PriceLine, PriceList } from '../../price/lines/price-list'
import type { Breaks } from '../../price/lines/price-method'
import { listsReferredTo } from '../../price/lines/price-references'
import { getSettings, priceDigitsOf, type Store } from '../../store/store'
import type { CandidateRows } from '../items/candidate-rows'
import { compileLine, type CompiledLine } from './compiled-line'
import type { ListLayout } from './list-layout'

/** A price list made ready for looking up: which of its lines reach an item, and what each makes of a price. */
export class CompiledList {
  /** As in its layout, at hand for the hot loops. */
  readonly named: Int32Array
  readonly namedRows: CandidateRows
  readonly complete: Uint8Array | null
  readonly hasPlan: boolean
  readonly digits: number
  /** Of its amounts: its own, else the store's. */
  readonly basis: TaxBasis
  readonly schedule: CompiledSchedule
  private readonly compiledLines: (CompiledLine | undefined)[] = []
  private contents: Contents | null = null

  constructor(
    readonly list: PriceList,
    /** In the order they are asked when equally specific. */
    readonly lines: readonly PriceLine[],
    private readonly store: Store,
    /** The number of the one variant each line is for; −1 for lines that say anything else. */
    readonly numbers: readonly number[],
    readonly layout: ListLayout,
  ) {
    this.named = layout.named
    this.namedRows = layout.namedRows
    this.complete = layout.complete
    this.hasPlan = layout.hasPlan
    this.basis = list.taxBasis ?? getSettings(store).taxBasis
    this.digits = priceDigitsOf(store, list.currency)
    this.schedule = compileSchedule(list.schedule, getSettings(store).timeZone)
  }

  /** Schedules of single lines. */
  get lineSchedules(): readonly CompiledSchedule[] {
    return this.readContents().lineSchedules
  }

  /** Ids of the lists its prices are computed from. */
  get referredTo(): ReadonlySet<string> {
    return this.readContents().referredTo
  }

  /** Whether the quantity bought matters. */
  get hasBreaks(): boolean {
    return this.readContents().hasBreaks
  }

  /** What only matters once somebody stands before the list: not read while a large store is prepared. */
  readContents(): Contents {
    if (this.contents) return this.contents
    const { list, lines, store } = this
    const { timeZone } = getSettings(store)
    return (this.contents = {
      lineSchedules: lines.flatMap(({ schedule }) => (schedule ? [compileSchedule(schedule, timeZone)] : [])),
      referredTo: listsReferredTo(list, lines),
      hasBreaks:
        lines.some(dependsOnQuantity) || (list.defaultLine !== null && dependsOnQuantity(list.defaultLine)),
    })
  }

  /** A line by its position; the default line stands behind the last. */
  line(position: number): CompiledLine {
    return (this.compiledLines[position] ??= compileLine(this.list, this.lines[position], this.store))
  }

  /** Candidates of each signature. */
  plan(): CandidateRows {
    return this.layout.plan()
  }
}

interface Contents {
  readonly lineSchedules: readonly CompiledSchedule[]
  readonly referredTo: ReadonlySet<string>
  readonly hasBreaks: boolean
}

/** Whether the quantity bought matters. */
function dependsOnQuantity({ breaks }: Breaks): boolean {
  return breaks.length > 1 || breaks[0]?.from !== '0'
}
