/** What every control that unrolls under a sentence is given. */
export interface StripProps {
  /** What is changed: "Name of Fennmoor supply". */
  readonly label: string
  /** As it stands, as it is typed. */
  readonly initial: string
  /** Keeps it; resolves to what is wrong, or `null`. */
  readonly onDone: (text: string) => Promise<string | null>
  readonly onCancel: () => void
  /** Called with every change, so that the sentence follows. */
  readonly onChange?: (words: string) => void
}
