import { randomBytes } from 'node:crypto'
import type { EditionsReply, LinkAsked, LinksReply } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import { iso, type Database } from './database.ts'

export type Link = { readonly token: string; readonly flow: string; readonly rights: LinkAsked['rights']; /** The edit it shows; undefined follows the story as it stands. */ readonly edit: number | undefined }

/** The links of stories, what they were used for, and the editions they may follow. */
export class Links {
  private readonly database: Database
  constructor(database: Database) {
    this.database = database
  }
  async make(flow: string, { rights, note, endsAt, follows }: LinkAsked): Promise<string> {
    await this.mayFollow(flow, rights, follows)
    const token = randomBytes(24).toString('base64url')
    await this.database.query('insert into links (token, flow, rights, note, ends_at, follows) values ($1, $2, $3, $4, $5, $6)', token, flow, rights, note, endsAt, follows)
    return token
  }
  /** The same address with other rights, another end or another edition. */
  async change(flow: string, token: string, { rights, note, endsAt, follows }: LinkAsked): Promise<void> {
    await this.mayFollow(flow, rights, follows)
    await this.database.query('update links set rights = $3, note = $4, ends_at = $5, follows = $6 where flow = $1 and token = $2', flow, token, rights, note, endsAt, follows)
  }
  private async mayFollow(flow: string, rights: LinkAsked['rights'], follows: string): Promise<void> {
    if (follows === 'story') return
    if (rights === 'edit') throw new Refusal(400, 'edits-the-story', 'A link that may change the story shows the story as it stands, not an edition.')
    if (!(await this.editions(flow)).editions.some(({ id }) => follows === 'newest' || String(id) === follows)) throw new Refusal(400, 'no-edition', 'There is no such edition. Freeze one first.')
  }
  async end(flow: string, token: string): Promise<void> {
    await this.database.query('update links set ended_at = now() where flow = $1 and token = $2 and ended_at is null', flow, token)
  }
  async list(flow: string): Promise<LinksReply> {
    const links = await this.database.query('select *, coalesce(ended_at, ends_at) <= now() as over from links where flow = $1 order by at desc', flow)
    const uses = await this.database.query('select u.* from link_uses u join links l on l.token = u.link where l.flow = $1 order by u.at desc limit 500', flow)
    return {
      links: links.map((row) => ({
        token: row.token as string, rights: row.rights as LinkAsked['rights'], note: row.note as string, follows: row.follows as string, madeAt: iso(row.at), endsAt: row.ends_at === null ? null : iso(row.ends_at), over: row.over === true,
        uses: uses.filter(({ link }) => link === row.token).map(({ what, run, at }) => ({ what: what as LinksReply['links'][number]['uses'][number]['what'], run: run as string | null, at: iso(at) })),
      })),
    }
  }
  /** What a token opens, as long as it lives. */
  async open(token: string): Promise<Link> {
    const [row] = await this.database.query(
      `select l.flow, l.rights, l.follows, case l.follows when 'story' then null when 'newest' then (select edit from editions where flow = l.flow order by id desc limit 1) else (select edit from editions where flow = l.flow and id = l.follows::bigint) end as edit
       from links l where token = $1 and ended_at is null and (ends_at is null or ends_at > now())`,
      token,
    )
    if (!row) throw new Refusal(404, 'no-link', 'This link has ended or never was. Ask whoever sent it for a new one.')
    return { token, flow: row.flow as string, rights: row.rights as LinkAsked['rights'], edit: row.edit === null ? undefined : Number(row.edit) }
  }
  /** What a link was used for; reading is told once an hour. */
  async used(token: string, what: LinksReply['links'][number]['uses'][number]['what'], run?: string): Promise<void> {
    await this.database.query("insert into link_uses (link, what, run) select $1, $2, $3 where $2 not in ('read', 'edited') or not exists (select from link_uses where link = $1 and what = $2 and at > now() - interval '1 hour')", token, what, run ?? null)
  }

  async freeze(flow: string, name: string, note: string): Promise<void> {
    await this.database.query('insert into editions (flow, edit, name, note) select id, head, $2, $3 from flows where id = $1', flow, name, note)
  }
  async editions(flow: string): Promise<EditionsReply> {
    const rows = await this.database.query('select n.id, n.edit, n.name, n.note, n.at, e.recipe from editions n join edits e on e.id = n.edit where n.flow = $1 order by n.id desc', flow)
    return { editions: rows.map(({ id, edit, name, note, at, recipe }) => ({ id: Number(id), edit: Number(edit), name: name as string, note: note as string, at: iso(at), recipe: recipe as EditionsReply['editions'][number]['recipe'] })) }
  }
}
