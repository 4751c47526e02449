/** A piece of a sentence; with `href` it is the name of a record and a link to it. */
export interface TracePart {
  readonly text: string
  readonly href?: string
}
