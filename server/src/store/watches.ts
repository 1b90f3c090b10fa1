import type { FileRef, MailsReply, WatchesReply, WatchSettings } from '@fabula/core/api'
import { iso, newId } from './database.ts'
import type { Statement, StatementRunner } from './statements.ts'

type WatchRow = Record<string, unknown>
/** A story that is replayed by itself. `seen`: the files of its folder that were taken in, by name, size and time of change. */
export type StoredWatch = {
  readonly id: string
  readonly flow: string
  readonly settings: WatchSettings
  readonly nextAt: Date | undefined
  readonly seen: readonly string[]
}
/** An entry of a watch’s log. */
export type Noted = {
  readonly what: WatchesReply['watches'][number]['log'][number]['what']
  readonly sentence: string
  readonly run?: string | undefined
  readonly files: Readonly<Record<string, readonly FileRef[]>>
}

export type Mail = { readonly to: string; readonly subject: string; readonly text: string }

const mailStatement = ({ to, subject, text }: Mail): Statement => ({
  sql: 'insert into mails (recipient, subject, body) values ($1, $2, $3)',
  params: [to, subject, text],
})

/** Watched folders and schedules, with their logs. */
export class Watches {
  private readonly database: StatementRunner
  constructor(database: StatementRunner) {
    this.database = database
  }
  /** `seen`: what the folder held when the watch began; only what comes later counts. */
  async add(flow: string, settings: WatchSettings, nextAt: Date | undefined, seen: readonly string[]): Promise<void> {
    await this.database.query(
      'insert into watches (id, flow, settings, next_at, seen) values ($1, $2, $3, $4, $5)',
      newId(),
      flow,
      JSON.stringify(settings),
      nextAt ?? null,
      [...seen],
    )
  }
  async remove(flow: string, id: string): Promise<void> {
    await this.database.query('update watches set removed_at = now() where flow = $1 and id = $2', flow, id)
  }
  async pause(flow: string, id: string, on: boolean): Promise<void> {
    await this.database.query('update watches set on_ = $3 where flow = $1 and id = $2', flow, id, on)
  }
  async going(): Promise<StoredWatch[]> {
    return (
      await this.database.query(
        'select w.* from watches w join flows f on f.id = w.flow where w.on_ and w.removed_at is null and f.deleted_at is null order by w.at',
      )
    ).map(watchOf)
  }
  async one(flow: string, id: string): Promise<StoredWatch | undefined> {
    const [row] = await this.database.query(
      'select * from watches where flow = $1 and id = $2 and removed_at is null',
      flow,
      id,
    )
    return row && watchOf(row)
  }
  async next(id: string, at: Date | undefined): Promise<void> {
    await this.database.query('update watches set next_at = $2 where id = $1', id, at ?? null)
  }
  async sawAll(id: string, keys: readonly string[]): Promise<void> {
    await this.database.query(
      'update watches set seen = (select array_agg(distinct k) from unnest(seen || $2::text[]) k) where id = $1',
      id,
      [...keys],
    )
  }
  /** A mail that goes with an entry is sent with it or not at all. */
  async note(id: string, { what, sentence, run, files }: Noted, mail?: Mail): Promise<void> {
    const entry = {
      sql: 'insert into watch_log (watch, what, sentence, run, files) values ($1, $2, $3, $4, $5)',
      params: [id, what, sentence, run ?? null, JSON.stringify(files)],
    }
    await this.database.transaction(mail === undefined ? [entry] : [mailStatement(mail), entry])
  }
  /** The watch that asked for a replay. */
  async ofRun(run: string): Promise<StoredWatch | undefined> {
    const [row] = await this.database.query(
      'select w.* from watches w join runs r on r.watch = w.id where r.id = $1',
      run,
    )
    return row && watchOf(row)
  }
  /** The files of its last replay, for the inputs that get none anew. */
  async lastFiles(id: string): Promise<Record<string, FileRef[]>> {
    const [row] = await this.database.query(
      "select files from watch_log where watch = $1 and what = 'replays' order by id desc limit 1",
      id,
    )
    return (row?.files ?? {}) as Record<string, FileRef[]>
  }
  async list(flow: string): Promise<WatchesReply> {
    const rows = await this.database.query(
      'select * from watches where flow = $1 and removed_at is null order by at',
      flow,
    )
    const log = await this.database.query(
      'select l.* from watch_log l join watches w on w.id = l.watch where w.flow = $1 order by l.id desc limit 200',
      flow,
    )
    return {
      watches: rows.map((row) => ({
        ...watchOf(row),
        on: row.on_ === true,
        nextAt: row.next_at === null ? null : iso(row.next_at),
        log: log
          .filter(({ watch }) => watch === row.id)
          .slice(0, 30)
          .map((one) => ({
            id: Number(one.id),
            at: iso(one.at),
            what: one.what as Noted['what'],
            sentence: one.sentence as string,
            run: one.run as string | null,
            files: one.files as Record<string, FileRef[]>,
          })),
      })),
    }
  }

  /** A stand-in for a mail service: notices lie here and can be read on the page. */
  async mail(mail: Mail): Promise<void> {
    await this.database.transaction([mailStatement(mail)])
  }
  async mails(): Promise<MailsReply> {
    return {
      mails: (await this.database.query('select * from mails order by id desc limit 200')).map(
        ({ id, at, recipient, subject, body }) => ({
          id: Number(id),
          at: iso(at),
          to: recipient as string,
          subject: subject as string,
          body: body as string,
        }),
      ),
    }
  }
}

const watchOf = (row: WatchRow): StoredWatch => ({
  id: row.id as string,
  flow: row.flow as string,
  settings: row.settings as WatchSettings,
  nextAt: row.next_at === null ? undefined : new Date(row.next_at as string),
  seen: row.seen as string[],
})
