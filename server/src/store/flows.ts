import { randomBytes } from 'node:crypto'
import { readRecipe, type Recipe } from '@fabula/core'
import type { FileRef, FlowReply, FlowSummary, Picture, RunReply } from '@fabula/core/api'
import type { Database } from './database.ts'
import { Refusal } from '../refusal.ts'

const newId = (): string => randomBytes(9).toString('base64url')
const iso = (value: unknown): string => new Date(value as string).toISOString()

const recipeOf = (value: unknown): Recipe => {
  const read = readRecipe(value)
  if ('faults' in read) throw new Refusal(400, 'invalid-recipe', read.faults.map(({ sentence, where }) => `${sentence} (at ${where})`).join(' '))
  return read.recipe
}

type Row = Record<string, unknown>
type RunRow = Pick<RunReply, 'files' | 'tables' | 'outputs' | 'pictures'>

/** Flows and all that hangs on them, in plain SQL. */
export class Flows {
  private readonly database: Database
  constructor(database: Database) {
    this.database = database
  }

  async list(): Promise<FlowSummary[]> {
    const rows = await this.database.query('select f.id, e.recipe, e.at from flows f join edits e on e.id = f.head order by e.at desc, e.id desc')
    return rows.map(({ id, recipe, at }) => ({ id: id as string, name: (recipe as Recipe).name, changedAt: iso(at), sentences: (recipe as Recipe).tables.reduce((sum, table) => sum + table.steps.length, 0) }))
  }

  async create(recipe: Recipe, files: Readonly<Record<string, readonly FileRef[]>> = {}, demo = false): Promise<string> {
    const id = newId()
    await this.database.transaction([
      { sql: 'insert into flows (id, demo) values ($1, $2)', params: [id, demo] },
      { sql: 'with made as (insert into edits (flow, recipe, what) values ($1, $2, $3) returning id) update flows set head = made.id from made where flows.id = $1', params: [id, recipeOf(recipe), 'begun'] },
      ...this.fileStatements(id, files),
    ])
    return id
  }

  private fileStatements(flow: string, files: Readonly<Record<string, readonly FileRef[]>>) {
    return Object.entries(files).flatMap(([input, refs]) => [
      { sql: 'delete from flow_files where flow = $1 and input = $2', params: [flow, input] },
      ...refs.map(({ name, hash }, place) => ({ sql: 'insert into flow_files (flow, input, place, name, hash) values ($1, $2, $3, $4, $5)', params: [flow, input, place, name, hash] })),
    ])
  }

  async setFiles(flow: string, files: Readonly<Record<string, readonly FileRef[]>>): Promise<void> {
    await this.database.transaction(this.fileStatements(flow, files))
  }

  async files(flow: string): Promise<Record<string, FileRef[]>> {
    const rows = await this.database.query('select ff.input, ff.name, ff.hash, f.size, s.source from flow_files ff join files f using (hash) left join shelf s on s.name = ff.name and s.hash = ff.hash where flow = $1 order by input, place', flow)
    const files: Record<string, FileRef[]> = {}
    for (const { input, name, hash, size, source } of rows) (files[input as string] ??= []).push({ name: name as string, hash: hash as string, size: Number(size), ...(source === null ? {} : { source: Number(source) }) })
    return files
  }

  async get(id: string, readOnly: boolean): Promise<FlowReply> {
    const [row] = await this.database.query(
      `select f.id, f.pictures, e.id as edit, e.recipe, e.at, e.parent, exists(select from edits c where c.flow = f.id and c.parent = e.id) as redo,
        (select token from links l where l.flow = f.id and ended_at is null order by at desc limit 1) as token
       from flows f join edits e on e.id = f.head where f.id = $1`,
      id,
    )
    if (!row) throw new Refusal(404, 'no-flow', 'This flow does not exist, or its link has ended.')
    return { id, recipe: row.recipe as Recipe, edit: Number(row.edit), canUndo: row.parent !== null, canRedo: row.redo === true, changedAt: iso(row.at), files: await this.files(id), readOnly, link: readOnly ? null : ((row.token as string | null) ?? null), pictures: row.pictures as Picture[] }
  }

  /** A new edit on top of the one the page had; one that came from elsewhere meanwhile is not overwritten. */
  async edit(id: string, recipe: Recipe, what: string, after: number): Promise<void> {
    const [row] = await this.database.query(
      `with made as (insert into edits (flow, parent, recipe, what) select id, head, $2, $3 from flows where id = $1 and head = $4 returning id)
       update flows set head = made.id from made where flows.id = $1 returning head`,
      id, recipeOf(recipe), what, after,
    )
    if (!row) throw new Refusal(409, 'changed-elsewhere', 'The story was changed in another window meanwhile. Reload the page to see it, then make your change again.')
  }

  async setPictures(id: string, pictures: readonly Picture[]): Promise<void> {
    await this.database.query('update flows set pictures = $2 where id = $1', id, JSON.stringify(pictures))
  }

  async undo(id: string): Promise<void> {
    await this.database.query('update flows set head = e.parent from edits e where flows.id = $1 and e.id = flows.head and e.parent is not null', id)
  }
  async redo(id: string): Promise<void> {
    await this.database.query('update flows set head = (select max(c.id) from edits c where c.flow = flows.id and c.parent = flows.head) where id = $1 and exists (select from edits c where c.flow = flows.id and c.parent = flows.head)', id)
  }

  async startRun(flow: string, edit: number, asked: unknown): Promise<string> {
    const id = newId()
    await this.database.query("insert into runs (id, flow, edit, state, asked) values ($1, $2, $3, 'running', $4)", id, flow, edit, asked)
    return id
  }
  async finishRun(id: string, state: RunReply['state'], sentence: string | null, result: RunRow): Promise<void> {
    await this.database.query('update runs set state = $2, sentence = $3, files = $4, tables = $5, outputs = $6, pictures = $7 where id = $1', id, state, sentence, JSON.stringify(result.files), JSON.stringify(result.tables), JSON.stringify(result.outputs), JSON.stringify(result.pictures))
  }
  /** Runs that were going when the server stopped are told failed. */
  async failUnfinished(): Promise<void> {
    await this.database.query("update runs set state = 'failed', sentence = 'The server stopped while this replay ran. Replay it again.' where state = 'running'")
  }
  async runs(flow: string): Promise<RunReply[]> {
    return (await this.database.query('select * from runs where flow = $1 order by started_at desc limit 50', flow)).map(runOf)
  }
  async run(flow: string, id: string): Promise<RunReply> {
    const [row] = await this.database.query('select * from runs where flow = $1 and id = $2', flow, id)
    if (!row) throw new Refusal(404, 'no-run', 'This replay does not exist.')
    return runOf(row)
  }

  async link(flow: string): Promise<string> {
    const token = randomBytes(24).toString('base64url')
    await this.database.transaction([
      { sql: 'update links set ended_at = now() where flow = $1 and ended_at is null', params: [flow] },
      { sql: 'insert into links (token, flow) values ($1, $2)', params: [token, flow] },
    ])
    return token
  }
  async endLink(flow: string): Promise<void> {
    await this.database.query('update links set ended_at = now() where flow = $1 and ended_at is null', flow)
  }
  async flowOfLink(token: string): Promise<string> {
    const [row] = await this.database.query('select flow from links where token = $1 and ended_at is null', token)
    if (!row) throw new Refusal(404, 'no-link', 'This link has ended or never was. Ask whoever sent it for a new one.')
    return row.flow as string
  }
}

const runOf = (row: Row): RunReply => ({
  id: row.id as string,
  state: row.state as RunReply['state'],
  done: 0,
  of: 0,
  doing: '',
  sentence: row.sentence as string | null,
  startedAt: iso(row.started_at),
  edit: Number(row.edit),
  files: row.files as RunReply['files'],
  tables: row.tables as RunReply['tables'],
  outputs: row.outputs as RunReply['outputs'],
  pictures: row.pictures as RunReply['pictures'],
})
