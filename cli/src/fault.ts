/** What ends a command, as data: an exit code of the recipe's section 9 and plain sentences. */
export type FaultEntry = { readonly code: string; readonly sentence: string; readonly where?: string | undefined }
export class Fault extends Error {
  readonly exit: 2 | 3 | 4 | 5 | 6
  readonly entries: readonly FaultEntry[]
  constructor(exit: 2 | 3 | 4 | 5 | 6, entries: readonly FaultEntry[]) {
    super(entries.map(({ sentence }) => sentence).join('\n'))
    this.exit = exit
    this.entries = entries
  }
}
export const fault = (exit: Fault['exit'], code: string, sentence: string, where?: string): Fault =>
  new Fault(exit, [{ code, sentence, where }])
