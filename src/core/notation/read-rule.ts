/** What was typed for a rule, or the part of it that means nothing and the nearest thing that does. */
export type ReadRule<Value> =
  { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly problem: string }
