import { type Category, pathToRoot } from '@/core/catalogue/category'
import { findNearest } from '@/core/issue/issue'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'

/** A branch an import makes, and one that exists and is called much like it. */
export interface NewBranch {
  readonly path: string
  readonly nearest: string | null
}

/** Finds the categories a file names by their way from the top, and makes those that do not exist. */
export class CategoryBook {
  private readonly known: Map<string, Category>
  private readonly byPath = new Map<string, string>()
  private readonly byName = new Map<string, string[]>()
  private readonly codes = new Set<string>()
  private readonly made = new Map<string, { category: Category; branch: NewBranch }>()

  constructor(
    categories: ReadonlyMap<string, Category>,
    private readonly newId: () => string,
  ) {
    this.known = new Map(categories)
    for (const category of categories.values()) {
      this.byPath.set(pathKey(this.pathOf(category.id)), category.id)
      for (const name of new Set([category.name.toLowerCase(), category.code.toLowerCase()]))
        this.byName.set(name, [...(this.byName.get(name) ?? []), category.id])
      this.codes.add(category.code.toLowerCase())
    }
  }

  /** Names from the top down to a category. */
  pathOf(id: string): readonly string[] {
    return pathToRoot(this.known, id)
      .map(({ name }) => name)
      .reverse()
  }

  /**
   * The category a text names: its code, its name where only one has it, or its way from the top with `>` or `/`
   * between the steps.
   *
   * Errors  the ways of several that share the name.
   */
  find(
    text: string,
  ):
    | { readonly ok: true; readonly id: string | null }
    | { readonly ok: false; readonly among: readonly string[] } {
    const exact = this.byPath.get(pathKey(stepsOf(text)))
    if (exact !== undefined) return { ok: true, id: exact }
    const named = this.byName.get(text.trim().toLowerCase()) ?? []
    if (named.length > 1) return { ok: false, among: named.map((id) => this.pathOf(id).join(' > ')) }
    return { ok: true, id: named[0] ?? null }
  }

  /** The name of an existing category that is much like a text. */
  nearest(text: string): string | null {
    return findNearest(
      text,
      [...this.known.values()].map(({ name }) => name),
    )
  }

  /** The category at the end of a way, made together with whatever of the way does not exist. */
  make(text: string): string {
    let parent: string | null = null
    const path: string[] = []
    for (const name of stepsOf(text)) {
      path.push(name)
      parent = this.byPath.get(pathKey(path)) ?? this.add(name, parent, path)
    }
    return parent as string
  }

  /** Categories made that some categories are or hang on, what others hang on first: those of refused rows are not made. */
  branchesOf(
    used: readonly string[],
  ): readonly { readonly category: Category; readonly branch: NewBranch }[] {
    const needed = new Set(used.flatMap((id) => pathToRoot(this.known, id).map((category) => category.id)))
    return [...this.made.values()].filter(({ category }) => needed.has(category.id))
  }

  private add(name: string, parent: string | null, path: readonly string[]): string {
    const siblings = [...this.known.values()].filter((each) => each.parent === parent)
    const category: Category = {
      ...RECORD_DEFAULTS.category,
      id: this.newId(),
      code: this.freeCode(name),
      name,
      parent,
      position: Math.max(-1, ...siblings.map(({ position }) => position)) + 1,
    }
    const nearest = findNearest(
      name,
      siblings.filter(({ id }) => !this.made.has(id)).map((each) => each.name),
    )
    this.known.set(category.id, category)
    this.byPath.set(pathKey(path), category.id)
    this.made.set(category.id, { category, branch: { path: path.join(' > '), nearest } })
    return category.id
  }

  private freeCode(name: string): string {
    const plain =
      name
        .normalize('NFKD')
        .toLowerCase()
        .replace(/\p{Mark}/gu, '')
        .replace(/[^\p{Letter}\p{Number}]+/gu, '-')
        .replace(/^-|-$/g, '') || 'category'
    let code = plain
    for (let count = 2; this.codes.has(code); count += 1) code = `${plain}-${count}`
    this.codes.add(code)
    return code
  }
}

/** Several categories stand in one cell with `;` or `|` between them. */
export function categoryTexts(cell: string): readonly string[] {
  return cell
    .split(/[;|]/)
    .map((each) => each.trim())
    .filter((each) => each !== '')
}

function stepsOf(text: string): readonly string[] {
  const between = /[>›]/.test(text) ? /[>›]/ : '/'
  return text
    .split(between)
    .map((step) => step.trim())
    .filter((step) => step !== '')
}

function pathKey(path: readonly string[]): string {
  return path.map((name) => name.toLowerCase()).join('\n')
}
