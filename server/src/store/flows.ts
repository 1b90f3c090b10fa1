import { isFile, ownValue, readRecipe, setOwnValue, tableNames, writtenTables, type Recipe } from '@fabula/core'
import type { EditRequest, FileRef, FlowSummary, Picture } from '@fabula/core/api'
import { iso, newId } from './database.ts'
import type { StatementRunner } from './statements.ts'
import { Refusal } from '../refusal.ts'

const recipeOf = (value: unknown): Recipe => {
  const read = readRecipe(value)
  if ('faults' in read)
    throw new Refusal('invalid-recipe', {
      reason: read.faults.map(({ sentence, where }) => `${sentence} (at ${where})`).join(' '),
    })
  return read.recipe
}

/** What a change by link sets in the same statement, so that no moment lies between the change and its hold: since when the story is held, and the edit before. `byLink`: the parameter that says so. */
const held = (byLink: string): string =>
  `held_from = case when ${byLink}::boolean then coalesce(held_from, head) else held_from end, held_since = case when ${byLink}::boolean then coalesce(held_since, now()) else held_since end`

const changedElsewhere = (): Refusal => new Refusal('changed-elsewhere')

/** A story as it stands, or as an edition froze it. */
export type Flow = {
  readonly id: string
  readonly recipe: Recipe
  readonly edit: number
  readonly canUndo: boolean
  readonly canRedo: boolean
  readonly changedAt: string
  readonly pictures: Picture[]
  /** Since when it holds changes by link that its owner has not agreed to. */ readonly heldSince: string | null
  /** The edit before those changes. */ readonly heldFrom: number | null
}

/** A story that was changed by link writes no database before its owner has looked at it. */
export const heldSentence = ({ heldSince, recipe }: Pick<Flow, 'heldSince' | 'recipe'>): string | undefined =>
  heldSince !== null && (recipe.outputs ?? []).some((output) => !isFile(output))
    ? 'This story was changed by a link since you last agreed to it, and it writes into a database. Look at what changed, agree, and replay it then.'
    : undefined

/** @throws Refusal where the story waits until its owner agrees to a change */
export const refuseHeld = (story: Flow): void => {
  const sentence = heldSentence(story)
  if (sentence !== undefined) throw new Refusal('held', { reason: sentence })
}

/** Flows and all that hangs on them, in plain SQL. */
export class Flows {
  private readonly database: StatementRunner
  constructor(database: StatementRunner) {
    this.database = database
  }

  async list(): Promise<FlowSummary[]> {
    const rows = await this.database.query(
      `select f.id, e.recipe, e.at, (
         select count(*) from watch_log l join watches w on w.id = l.watch
         where w.flow = f.id and w.removed_at is null and l.what = 'waits'
           and l.at > coalesce((select max(r.started_at) from runs r where r.flow = f.id and r.state = 'done'), '-infinity')
       ) as waits, f.opened_at, f.deleted_at, ran.*
       from flows f join edits e on e.id = f.head left join lateral (
         select r.started_at as ran_at, (r.outputs->0->>'rows')::int as ran_rows, r.open_ as ran_open,
           array(select one->>'name' from jsonb_array_elements(r.files) one) as ran_files
         from runs r where r.flow = f.id and r.state = 'done' order by r.started_at desc limit 1
       ) ran on true where f.deleted_at is null or f.deleted_at > now() - interval '30 days'
       order by greatest(f.opened_at, e.at) desc, e.id desc`,
    )
    return rows.map(({ id, recipe, at, waits, ...row }) => ({
      id: id as string,
      name: (recipe as Recipe).name,
      changedAt: iso(at),
      sentences: (recipe as Recipe).tables.reduce((sum, table) => sum + table.steps.length, 0),
      writes: writtenTables(recipe as Recipe).map((table) => tableNames(recipe as Recipe)(table)),
      openedAt: row.opened_at === null ? null : iso(row.opened_at),
      ran:
        row.ran_at === null
          ? null
          : {
              at: iso(row.ran_at),
              files: row.ran_files as string[],
              rows: Number(row.ran_rows ?? 0),
              open: Number(row.ran_open),
            },
      deletedAt: row.deleted_at === null ? null : iso(row.deleted_at),
      waits: Number(waits),
    }))
  }

  /** Its owner looks at it. */
  async opened(id: string): Promise<void> {
    await this.database.query('update flows set opened_at = now() where id = $1', id)
  }
  /** It is gone for everyone, and does not replay itself, until it is taken back. */
  async remove(id: string): Promise<void> {
    const [row] = await this.database.query(
      'update flows set deleted_at = now() where id = $1 and deleted_at is null returning id',
      id,
    )
    if (!row) throw new Refusal('no-flow')
  }
  /** Takes a deleted story back, within 30 days. */
  async restore(id: string): Promise<void> {
    const [row] = await this.database.query(
      `update flows set deleted_at = null where id = $1 and deleted_at > now() - interval '30 days' returning id`,
      id,
    )
    if (!row) throw new Refusal('no-flow')
  }

  async create(
    recipe: Recipe,
    files: Readonly<Record<string, readonly FileRef[]>> = {},
    {
      pictures = [],
      demo = false,
      byLink = false,
    }: { readonly pictures?: readonly Picture[]; readonly demo?: boolean; readonly byLink?: boolean } = {},
  ): Promise<string> {
    const id = newId()
    await this.database.transaction([
      {
        sql: 'insert into flows (id, demo, held_since) values ($1, $2, case when $3 then now() end)',
        params: [id, demo, byLink],
      },
      {
        sql: 'with made as (insert into edits (flow, recipe, what, pictures) values ($1, $2, $3, $4) returning id) update flows set head = made.id from made where flows.id = $1',
        params: [id, recipeOf(recipe), 'begun', JSON.stringify(pictures)],
      },
      ...this.fileStatements(id, files),
    ])
    return id
  }

  private fileStatements(flow: string, files: Readonly<Record<string, readonly FileRef[]>>) {
    return Object.entries(files).flatMap(([input, refs]) => [
      { sql: 'delete from flow_files where flow = $1 and input = $2', params: [flow, input] },
      ...refs.map(({ name, hash }, place) => ({
        sql: 'insert into flow_files (flow, input, place, name, hash) values ($1, $2, $3, $4, $5)',
        params: [flow, input, place, name, hash],
      })),
    ])
  }

  async setFiles(flow: string, files: Readonly<Record<string, readonly FileRef[]>>, byLink = false): Promise<void> {
    await this.database.transaction([
      ...this.fileStatements(flow, files),
      { sql: `update flows set ${held('$2')} where id = $1`, params: [flow, byLink] },
    ])
  }

  async files(flow: string): Promise<Record<string, FileRef[]>> {
    const rows = await this.database.query(
      'select ff.input, ff.name, ff.hash, f.size, s.source, s.sample from flow_files ff join files f using (hash) left join shelf s on s.name = ff.name and s.hash = ff.hash where flow = $1 order by input, place',
      flow,
    )
    const files: Record<string, FileRef[]> = {}
    for (const { input, name, hash, size, source, sample } of rows)
      (ownValue(files, input as string) ?? setOwnValue(files, input as string, [])).push({
        name: name as string,
        hash: hash as string,
        size: Number(size),
        ...(source === null ? {} : { source: Number(source) }),
        ...(sample === null ? {} : { sample: sample as string }),
      })
    return files
  }

  /** A story at an edit, or where it stands. */
  async get(id: string, edit?: number): Promise<Flow> {
    const [row] = await this.database.query(
      `select f.held_since, f.held_from, e.pictures, e.id as edit, e.recipe, e.at, e.parent, exists(select from edits c where c.flow = f.id and c.parent = e.id) as redo
       from flows f join edits e on e.flow = f.id and e.id = coalesce($2, f.head) where f.id = $1 and f.deleted_at is null`,
      id,
      edit ?? null,
    )
    if (!row) throw new Refusal('no-flow')
    return {
      id,
      recipe: row.recipe as Recipe,
      edit: Number(row.edit),
      canUndo: row.parent !== null,
      canRedo: row.redo === true,
      changedAt: iso(row.at),
      pictures: row.pictures as Picture[],
      heldSince: row.held_since === null ? null : iso(row.held_since),
      heldFrom: row.held_from === null ? null : Number(row.held_from),
    }
  }

  /** A new edit on top of the one the page had, with its pictures where no others are given; one that came from elsewhere meanwhile is not overwritten. */
  async edit(id: string, { recipe, pictures, what, after }: EditRequest, byLink = false): Promise<void> {
    const [row] = await this.database.query(
      `with made as (
         insert into edits (flow, parent, recipe, what, pictures) select f.id, f.head, $2, $3, coalesce($5, e.pictures) from flows f join edits e on e.id = f.head where f.id = $1 and f.head = $4 returning id)
       update flows set head = made.id, ${held('$6')} from made where flows.id = $1 returning head`,
      id,
      recipeOf(recipe),
      what,
      after,
      pictures === undefined ? null : JSON.stringify(pictures),
      byLink,
    )
    if (!row) throw changedElsewhere()
  }

  /** The owner has looked at what came by link. */
  async agree(id: string): Promise<void> {
    await this.database.query('update flows set held_since = null, held_from = null where id = $1', id)
  }

  /** The step back from the edit that the page had; one that came from elsewhere meanwhile is not undone. */
  async undo(id: string, after: number, byLink = false): Promise<void> {
    await this.expect(id, after)
    await this.database.query(
      `update flows set head = e.parent, ${held('$3')} from edits e where flows.id = $1 and e.id = flows.head and e.parent is not null and flows.head = $2`,
      id,
      after,
      byLink,
    )
  }
  async redo(id: string, after: number, byLink = false): Promise<void> {
    await this.expect(id, after)
    await this.database.query(
      `update flows set head = (select max(c.id) from edits c where c.flow = flows.id and c.parent = flows.head), ${held('$3')} where id = $1 and head = $2 and exists (select from edits c where c.flow = flows.id and c.parent = flows.head)`,
      id,
      after,
      byLink,
    )
  }
  private async expect(id: string, head: number): Promise<void> {
    const [row] = await this.database.query('select head = $2 as same from flows where id = $1', id, head)
    if (row?.same !== true) throw changedElsewhere()
  }
}
