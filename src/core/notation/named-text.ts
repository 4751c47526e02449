import { findByCode } from '../catalogue/find-by-code'

interface Named {
  readonly code: string
  readonly name: string
}

/** By name or code, in any case. */
export function findNamed<Item extends Named>(records: ReadonlyMap<string, Item>, word: string): Item | null {
  const byCode = findByCode(records, word)
  if (byCode) return byCode
  for (const record of records.values()) if (record.name.toLowerCase() === word.toLowerCase()) return record
  return null
}

/** Its name, and its code for where the name means something else too. */
export function labelsOf(records: ReadonlyMap<string, Named>, id: string): readonly string[] {
  const record = records.get(id)
  return record ? [record.name, record.code] : [id]
}

/** Whether a label is one part of a list between commas, and not one that begins by leaving out. */
export function isOneWord(label: string): boolean {
  return !/[,"]/.test(label) && label === label.trim() && !/^not\s/i.test(label)
}

/** A record as the merchant names it: by name, or by its code where the name would be read as another. */
export function writeNamed(records: ReadonlyMap<string, Named>, id: string): string {
  const labels = labelsOf(records, id)
  const reads = (label: string) => isOneWord(label) && findNamed(records, label) === records.get(id)
  return labels.find(reads) ?? labels.at(-1) ?? id
}

export function namesOf(records: ReadonlyMap<string, Named>): readonly string[] {
  return [...records.values()].flatMap(({ code, name }) => [name, code])
}
