export interface RecordRow {
  readonly label: string
  readonly name: string
  /** In the order of the table's columns. */
  readonly cells: readonly string[]
  readonly flag: string
  readonly archived: boolean
}

export interface RecordTableView {
  readonly columns: readonly string[]
  readonly rows: readonly RecordRow[]
  readonly live: boolean
}
