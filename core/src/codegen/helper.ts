/** A helper file that a generated script may carry: `defines` are the names its source defines, `needs` other files by name. */
export type Helper = {
  readonly name: string
  readonly defines: readonly string[]
  readonly needs: readonly string[]
  readonly source: string
  /** How it stands in a script that follows rows to their sources, where that differs. */
  readonly traced?: { readonly needs: readonly string[]; readonly source: string }
}
