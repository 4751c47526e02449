export interface RecordRow {
  readonly label: string
  readonly name: string
  /** In the order of the table's columns. */
  readonly cells: readonly string[]
  readonly flag: string
  readonly archived: boolean
  /** Steps below the top of a tree; 0 where there is none. */
  readonly depth: number
}

export interface RecordTableView {
  readonly columns: readonly string[]
  readonly rows: readonly RecordRow[]
  readonly live: boolean
}
