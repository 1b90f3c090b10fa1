import type { Plan, Recipe, TableRun } from '@fabula/core'
import type { ProofReply } from '@fabula/core/api'

/** How a script's table compares with the engine's. */
export type Verdict = Pick<ProofReply['tables'][number]['proofs'][number], 'state' | 'sentence'>

/** What a prover runs a story's script with. */
export type ProofJob = {
  readonly recipe: Recipe
  readonly plan: Plan
  /** Paths of each input's files, as the dialect reads them. */
  readonly inputs: readonly { readonly id: string; readonly paths: readonly string[] }[]
  /** The tables that scripts write, as the engine made them. */
  readonly tables: readonly { readonly id: string; readonly made: TableRun['table'] }[]
  /** A folder of the proof's own. */
  readonly folder: string
  /** The moment of the run, as `--now` takes it. */
  readonly now: string
  /** Tells how far the script is, from 0 to 1; throws where the proof was stopped. */
  readonly progress: (share: number, doing: string) => void
  readonly shouldStop: () => boolean
}

/**
 * Runs a dialect's script. Gives where each table's CSV is, by table id, or one verdict for all of them where the script
 * cannot be run here.
 * @throws ScriptFailed with what the script's interpreter said.
 */
export type Prover = (job: ProofJob) => Promise<((table: string) => string) | Verdict>

/** What an interpreter said when a script ended badly. */
export class ScriptFailed extends Error {}
