import { randomBytes } from 'node:crypto'
import type { EditionsReply, LinkAsked, LinksReply } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import { iso } from './database.ts'
import type { StatementRunner } from './statements.ts'

/** A link with what it allows. */
export type StoredLink = {
  readonly token: string
  readonly flow: string
  readonly rights: LinkAsked['rights']
  /** The edit it shows; undefined follows the story as it stands. */ readonly edit: number | undefined
}

/** The links of stories, what they were used for, and the editions they may follow. */
export class Links {
  private readonly database: StatementRunner
  private readonly turns = new Map<string, Promise<unknown>>()
  constructor(database: StatementRunner) {
    this.database = database
  }
  async make(flow: string, { rights, note, endsAt, follows, bytesADay, waiting }: LinkAsked): Promise<string> {
    await this.mayFollow(flow, rights, follows)
    const token = randomBytes(24).toString('base64url')
    await this.database.query(
      'insert into links (token, flow, rights, note, ends_at, follows, bytes_a_day, waiting) values ($1, $2, $3, $4, $5, $6, $7, $8)',
      token,
      flow,
      rights,
      note,
      endsAt,
      follows,
      bytesADay,
      waiting,
    )
    return token
  }
  /** The same address with other rights, another end or another edition. */
  async change(
    flow: string,
    token: string,
    { rights, note, endsAt, follows, bytesADay, waiting }: LinkAsked,
  ): Promise<void> {
    await this.mayFollow(flow, rights, follows)
    await this.database.query(
      'update links set rights = $3, note = $4, ends_at = $5, follows = $6, bytes_a_day = $7, waiting = $8 where flow = $1 and token = $2',
      flow,
      token,
      rights,
      note,
      endsAt,
      follows,
      bytesADay,
      waiting,
    )
  }
  private async mayFollow(flow: string, rights: LinkAsked['rights'], follows: string): Promise<void> {
    if (follows === 'story') return
    if (rights === 'edit') throw new Refusal('edits-the-story')
    if (!(await this.editions(flow)).editions.some(({ id }) => follows === 'newest' || String(id) === follows))
      throw new Refusal('no-edition')
  }
  async end(flow: string, token: string): Promise<void> {
    await this.database.query(
      'update links set ended_at = now() where flow = $1 and token = $2 and ended_at is null',
      flow,
      token,
    )
  }
  async list(flow: string): Promise<LinksReply> {
    const links = await this.database.query(
      'select l.*, coalesce(ended_at, ends_at) <= now() as over, coalesce((select bytes from link_uploads u where u.link = l.token and u.day = current_date), 0) as bytes_today from links l where flow = $1 order by at desc',
      flow,
    )
    const uses = await this.database.query(
      'select u.* from link_uses u join links l on l.token = u.link where l.flow = $1 order by u.at desc limit 500',
      flow,
    )
    return {
      links: links.map((row) => ({
        token: row.token as string,
        rights: row.rights as LinkAsked['rights'],
        note: row.note as string,
        follows: row.follows as string,
        madeAt: iso(row.at),
        endsAt: row.ends_at === null ? null : iso(row.ends_at),
        over: row.over === true,
        bytesADay: Number(row.bytes_a_day),
        waiting: Number(row.waiting),
        bytesToday: Number(row.bytes_today),
        uses: uses
          .filter(({ link }) => link === row.token)
          .map(({ what, run, at }) => ({
            what: what as LinksReply['links'][number]['uses'][number]['what'],
            run: run as string | null,
            at: iso(at),
          })),
      })),
    }
  }
  /** What a token opens, as long as it lives. */
  async open(token: string): Promise<StoredLink> {
    const [row] = await this.database.query(
      `select l.flow, l.rights, l.follows, case l.follows when 'story' then null when 'newest' then (select edit from editions where flow = l.flow order by id desc limit 1) else (select edit from editions where flow = l.flow and id = l.follows::bigint) end as edit
       from links l where token = $1 and ended_at is null and (ends_at is null or ends_at > now())`,
      token,
    )
    if (!row) throw new Refusal('no-link')
    return {
      token,
      flow: row.flow as string,
      rights: row.rights as LinkAsked['rights'],
      edit: row.edit === null ? undefined : Number(row.edit),
    }
  }
  /** What a link was used for; a read is counted once an hour. */
  async used(token: string, what: LinksReply['links'][number]['uses'][number]['what'], run?: string): Promise<void> {
    await this.database.query(
      "insert into link_uses (link, what, run) select $1, $2, $3 where $2 not in ('read', 'edited') or not exists (select from link_uses where link = $1 and what = $2 and at > now() - interval '1 hour')",
      token,
      what,
      run ?? null,
    )
  }

  /** Counts a file of so many bytes as sent by a link today, before it is read, or refuses it; files sent at once cannot pass the bound together. */
  async countUpload(token: string, bytes: number): Promise<void> {
    if (bytes === 0) throw new Refusal('no-length')
    const [counted] = await this.database.query(
      `insert into link_uploads as u (link, bytes) select token, $2 from links where token = $1 and $2 <= bytes_a_day
       on conflict (link, day) do update set bytes = u.bytes + excluded.bytes where u.bytes + excluded.bytes <= (select bytes_a_day from links where token = $1) returning bytes`,
      token,
      bytes,
    )
    if (counted) return
    const [row] = await this.database.query(
      'select bytes_a_day, coalesce((select bytes from link_uploads where link = token and day = current_date), 0) as sent from links where token = $1',
      token,
    )
    throw new Refusal('link-limit', {
      bytesADay: Number(row?.bytes_a_day ?? 0),
      bytesSent: Number(row?.sent ?? 0),
      bytes,
    })
  }
  /** What a link may cost: a copy taken by it may cost no more. */
  async limits(token: string): Promise<Pick<LinkAsked, 'bytesADay' | 'waiting'>> {
    const [row] = await this.database.query('select bytes_a_day, waiting from links where token = $1', token)
    return { bytesADay: Number(row?.bytes_a_day ?? 0), waiting: Number(row?.waiting ?? 0) }
  }
  /** Does work of a link after what was asked by it before, so that requests sent at once are counted one by one. */
  inTurn<T>(token: string, work: () => Promise<T>): Promise<T> {
    const done = (this.turns.get(token) ?? Promise.resolve()).then(work, work)
    const turn = done
      .catch(() => undefined)
      .finally(() => {
        if (this.turns.get(token) === turn) this.turns.delete(token)
      })
    this.turns.set(token, turn)
    return done
  }
  /** Refuses one more replay where as many as a link may have wait or run. */
  async mayReplay(token: string): Promise<void> {
    const [row] = await this.database.query(
      "select waiting, (select count(*)::int from runs where link = token and state = 'running') as going from links where token = $1",
      token,
    )
    if (Number(row?.going ?? 0) >= Number(row?.waiting ?? 0))
      throw new Refusal('link-limit', { replays: Number(row?.waiting ?? 0) })
  }

  async freeze(flow: string, name: string, note: string): Promise<void> {
    await this.database.query(
      'insert into editions (flow, edit, name, note) select id, head, $2, $3 from flows where id = $1',
      flow,
      name,
      note,
    )
  }
  async editions(flow: string): Promise<EditionsReply> {
    const rows = await this.database.query(
      'select n.id, n.edit, n.name, n.note, n.at, e.recipe from editions n join edits e on e.id = n.edit where n.flow = $1 order by n.id desc',
      flow,
    )
    return {
      editions: rows.map(({ id, edit, name, note, at, recipe }) => ({
        id: Number(id),
        edit: Number(edit),
        name: name as string,
        note: note as string,
        at: iso(at),
        recipe: recipe as EditionsReply['editions'][number]['recipe'],
      })),
    }
  }
}
