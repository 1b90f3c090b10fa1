import { rm } from 'node:fs/promises'
import type { FileRef, ShelfEntry } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import { iso } from './database.ts'
import type { StatementRunner } from './statements.ts'
import type { FileStore } from './files.ts'

/** Every file and source ever brought in: where each is used, its versions, what goes with it. */
export class Shelf {
  private readonly database: StatementRunner
  private readonly files: FileStore
  constructor(database: StatementRunner, files: FileStore) {
    this.database = database
    this.files = files
  }
  async add({ name, hash, sample }: FileRef, source?: number): Promise<void> {
    await this.database.query(
      'insert into shelf (name, hash, source, sample) values ($1, $2, $3, $4) on conflict (name, hash) do update set at = now(), deleted_at = null, source = coalesce(excluded.source, shelf.source), sample = excluded.sample',
      name,
      hash,
      source ?? null,
      sample ?? null,
    )
  }
  /** What columns a file was found to have, so that it can be found by them. */
  async note(refs: readonly FileRef[], columns: readonly string[]): Promise<void> {
    for (const { name, hash } of refs)
      await this.database.query('update shelf set columns = $3 where name = $1 and hash = $2', name, hash, [...columns])
  }
  async list(): Promise<ShelfEntry[]> {
    const rows = await this.database.query(
      `select s.id, s.name, s.hash, f.size, s.at, s.columns, s.sample, s.source, o.kind, o.name as source_name,
        (select count(*)::int from shelf v where v.name = s.name and v.deleted_at is null) as versions,
        coalesce((select jsonb_agg(jsonb_build_object('flow', ff.flow, 'name', e.recipe->>'name', 'input', ff.input)) from flow_files ff join flows w on w.id = ff.flow join edits e on e.id = w.head where ff.hash = s.hash and ff.name = s.name), '[]') as uses,
        (select count(*)::int from runs r where r.files @> jsonb_build_array(jsonb_build_object('hash', s.hash))) as replays
       from shelf s join files f using (hash) left join sources o on o.id = s.source where s.deleted_at is null order by s.at desc, s.id desc limit 2000`,
    )
    return rows.map((row) => ({
      id: Number(row.id),
      name: row.name as string,
      hash: row.hash as string,
      size: Number(row.size),
      ...(row.sample === null ? {} : { sample: row.sample as string }),
      at: iso(row.at),
      columns: row.columns as string[],
      versions: row.versions as number,
      replays: row.replays as number,
      uses: row.uses as ShelfEntry['uses'],
      source:
        row.source === null
          ? null
          : { id: Number(row.source), kind: row.kind as 'web', name: row.source_name as string },
    }))
  }
  private async one(id: number): Promise<FileRef> {
    const [row] = await this.database.query(
      'select s.name, s.hash, f.size from shelf s join files f using (hash) where s.id = $1 and s.deleted_at is null',
      id,
    )
    if (!row) throw new Refusal('not-on-shelf')
    return { name: row.name as string, hash: row.hash as string, size: Number(row.size) }
  }
  /** Another file stands wherever this one stood. */
  async replace(id: number, next: FileRef): Promise<void> {
    const old = await this.one(id)
    await this.database.query(
      'update flow_files set name = $3, hash = $4 where name = $1 and hash = $2',
      old.name,
      old.hash,
      next.name,
      next.hash,
    )
  }
  /** Off the shelf and out of the stories; the bytes go too, unless a past replay still tells of them. */
  async remove(id: number): Promise<void> {
    const { name, hash } = await this.one(id)
    const [left] = await this.database.transaction([
      { sql: 'delete from flow_files where name = $1 and hash = $2', params: [name, hash] },
      { sql: 'update shelf set deleted_at = now() where id = $1', params: [id] },
      {
        sql: "select (exists(select from flow_files where hash = $1) or exists(select from shelf where hash = $1 and deleted_at is null) or exists(select from runs where files @> jsonb_build_array(jsonb_build_object('hash', $1::text)) or outputs @> jsonb_build_array(jsonb_build_object('hash', $1::text)))) as used",
        params: [hash],
      },
    ])
    if (left?.used === false) await rm(this.files.path(hash), { force: true })
  }
}
