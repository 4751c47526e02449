/** What a mail says, before it is laid out. */
export interface MailWords {
  readonly subject: string
  /** The first words a list of mails shows. */
  readonly preview: string
  readonly title: string
  readonly paragraphs: readonly string[]
  /** What somebody wrote with it; empty where nobody did. */
  readonly quoted: string
  readonly lines: readonly {
    readonly name: string
    readonly quantity: string
    readonly price: string
    readonly total: string
  }[]
  readonly sums: readonly (readonly [label: string, amount: string])[]
  /** Where to go on. */
  readonly action: { readonly label: string; readonly path: string } | null
}

export const NO_LINES: Pick<MailWords, 'quoted' | 'lines' | 'sums'> = { quoted: '', lines: [], sums: [] }
