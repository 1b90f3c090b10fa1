/** What a generated script may carry, by name: `defines` are the names its source defines, `needs` other helpers' names. */
export type Helper = {
  readonly name: string
  readonly defines: readonly string[]
  readonly needs: readonly string[]
  readonly source: string
  /** The file that a definition of Python stands in. */
  readonly file?: string
  /** How it stands in a script that follows rows to their sources, where that differs. */
  readonly traced?: { readonly needs: readonly string[]; readonly source: string }
}
