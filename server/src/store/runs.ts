import type { Accounts, Answer, CompatibilityFinding } from '@fabula/core'
import type { FileRef, Picture, RunReply, RunSummary } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import { iso, newId } from './database.ts'
import type { StatementRunner } from './statements.ts'

type RunRow = Record<string, unknown>
/** All that a replay is run from, so that it can be run again exactly. */
export type RunAsked = {
  readonly files: Readonly<Record<string, readonly FileRef[]>>
  readonly answers: readonly Answer[]
  /** SHA-256 of files that are kept from before, by input. */
  readonly kept?: Readonly<Record<string, readonly string[]>>
  readonly allowChanges: boolean
  readonly parameters: Readonly<Record<string, string>>
  readonly pictures: readonly Picture[]
  /** Whether tables of databases are written too. */
  readonly databases: boolean
  /** Where it runs on a cluster: what the cluster reads, and the folder it writes to. */
  readonly cluster?: RunReply['cluster']
}
/** What a replay was asked with. */
export type RunStart = {
  readonly flow: string
  readonly edit: number
  readonly asked: RunAsked
  /** The wall clock it takes for now, in milliseconds. */ readonly clock: number
  readonly link?: string | undefined
  /** The watch that began it. */
  readonly watch?: string | undefined
  readonly repeats?: string | undefined
  /** Begun by a watch, not by a person. */ readonly alone?: boolean | undefined
}
/** What a replay made. */
export type RunMade = Pick<RunReply, 'files' | 'tables' | 'outputs' | 'pictures'> & {
  readonly findings: readonly CompatibilityFinding[]
  readonly open: number
  /** What the next run is compared with. */
  readonly accounts?: Accounts
}
/** The run that the next one of its line is compared with. */
export type LastRun = Required<Pick<RunAsked, 'answers' | 'files' | 'kept' | 'parameters'>> & {
  readonly accounts: Accounts
  readonly at: string
}

/** Replays, and what they were run from. */
export class Runs {
  private readonly database: StatementRunner
  constructor(database: StatementRunner) {
    this.database = database
  }
  async start({ flow, edit, asked, clock, link, watch, repeats, alone }: RunStart): Promise<string> {
    const id = newId()
    await this.database.query(
      "insert into runs (id, flow, edit, state, asked, clock, link, repeats, alone, watch) values ($1, $2, $3, 'running', $4, $5, $6, $7, $8, $9)",
      id,
      flow,
      edit,
      JSON.stringify(asked),
      clock,
      link ?? null,
      repeats ?? null,
      alone ?? false,
      watch ?? null,
    )
    return id
  }
  async finish(id: string, state: RunReply['state'], sentence: string | null, made: RunMade): Promise<void> {
    await this.database.query(
      'update runs set state = $2, sentence = $3, files = $4, tables = $5, outputs = $6, pictures = $7, findings = $8, open_ = $9, accounts = $10 where id = $1',
      id,
      state,
      sentence,
      JSON.stringify(made.files),
      JSON.stringify(made.tables),
      JSON.stringify(made.outputs),
      JSON.stringify(made.pictures),
      JSON.stringify(made.findings),
      made.open,
      made.accounts ? JSON.stringify(made.accounts) : null,
    )
  }
  /** Those that were going when the server stopped, oldest first, each counted as begun once more. */
  async unfinished(): Promise<(RunStart & { readonly id: string; readonly begun: number })[]> {
    const rows = await this.database.query("update runs set begun = begun + 1 where state = 'running' returning *")
    return rows
      .map((row) => ({ ...startOf(row), id: row.id as string, begun: Number(row.begun), at: iso(row.started_at) }))
      .sort((a, b) => (a.at < b.at ? -1 : 1))
  }
  /**
   * The latest finished run of a line in which every finding that asks was answered. A link and a watch have a line of their
   * own, which begins with the owner's.
   */
  async lastAccepted(
    flow: string,
    { link, watch }: { readonly link?: string | undefined; readonly watch?: string | undefined },
  ): Promise<LastRun | undefined> {
    const [row] = await this.database.query(
      `select accounts, asked, started_at from runs
       where flow = $1 and state = 'done' and open_ = 0 and accounts is not null and repeats is null
         and ((link is null and watch is null and not alone) or link = $2 or watch = $3)
       order by (link is not null or watch is not null) desc, started_at desc limit 1`,
      flow,
      link ?? null,
      watch ?? null,
    )
    if (!row) return undefined
    const { answers, files, kept = {}, parameters } = row.asked as RunAsked
    return { answers, files, kept, parameters, accounts: row.accounts as Accounts, at: iso(row.started_at) }
  }
  /** The newest first; by a link only those that were asked for by it. */
  async list(flow: string, link?: string): Promise<RunSummary[]> {
    return (
      await this.database.query(
        `select ${reported}, ${slim} as outputs ${source} where r.flow = $1 and ($2::text is null or r.link = $2) order by r.started_at desc limit 100`,
        flow,
        link ?? null,
      )
    ).map(summaryOf)
  }
  async get(flow: string, id: string, link?: string): Promise<RunReply> {
    return runOf(await this.row(flow, id, link))
  }
  async startOf(flow: string, id: string, link?: string): Promise<RunStart> {
    return startOf(await this.row(flow, id, link))
  }
  private async row(flow: string, id: string, link?: string): Promise<RunRow> {
    const [row] = await this.database.query(
      `select ${reported}, r.outputs, r.tables, r.pictures, r.findings ${source} where r.flow = $1 and r.id = $2 and ($3::text is null or r.link = $3)`,
      flow,
      id,
      link ?? null,
    )
    if (!row) throw new Refusal('no-run')
    return row
  }
}

const reported =
  "r.id, r.flow, r.edit, r.state, r.sentence, r.started_at, r.asked, r.clock, r.link, r.repeats, r.alone, r.open_, r.files, e.at as edit_at, case when r.link is null then null when l.note = '' then 'a link' else l.note end as by"
const source = 'from runs r join edits e on e.id = r.edit left join links l on l.token = r.link'
/** Outputs without the rows that are shown of them. */
const slim =
  "coalesce((select jsonb_agg(one - 'first' - 'names' order by place) from jsonb_array_elements(r.outputs) with ordinality as o(one, place)), '[]')"

const startOf = (row: RunRow): RunStart => ({
  flow: row.flow as string,
  edit: Number(row.edit),
  asked: row.asked as RunAsked,
  clock: Number(row.clock),
  link: (row.link as string | null) ?? undefined,
  repeats: (row.repeats as string | null) ?? undefined,
  watch: (row.watch as string | null) ?? undefined,
})

const runOf = (row: RunRow): RunReply => ({
  ...summaryOf(row),
  outputs: row.outputs as RunReply['outputs'],
  tables: row.tables as RunReply['tables'],
  pictures: row.pictures as RunReply['pictures'],
  findings: row.findings as RunReply['findings'],
})

const summaryOf = (row: RunRow): RunSummary => {
  const { parameters = {}, answers = [], cluster = null, files = {} } = row.asked as Partial<RunAsked>
  const samples = new Map(
    Object.values(files)
      .flat()
      .flatMap(({ hash, sample }) => (sample === undefined ? [] : [[hash, sample]])),
  )
  return {
    id: row.id as string,
    state: row.state as RunReply['state'],
    done: 0,
    of: 0,
    doing: '',
    sentence: row.sentence as string | null,
    startedAt: iso(row.started_at),
    edit: Number(row.edit),
    editAt: iso(row.edit_at),
    clock: Number(row.clock),
    by: row.by as string | null,
    repeats: row.repeats as string | null,
    alone: row.alone === true,
    parameters: { ...parameters },
    answers: [...answers],
    cluster,
    open: Number(row.open_),
    files: (row.files as RunReply['files']).map((file) => ({ ...file, sample: samples.get(file.hash) })),
    outputs: row.outputs as RunSummary['outputs'],
  }
}
