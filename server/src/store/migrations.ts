/** Numbered by place: a migration that has landed is never changed, the next is put behind it. */
export const migrations: readonly string[] = [
  `create table files (hash text primary key, size bigint not null, at timestamptz not null default now());
create table flows (id text primary key, head bigint, demo boolean not null default false, at timestamptz not null default now());
-- every edit is kept; undo moves the head to the parent, redo to the newest child
create table edits (
  id bigint generated always as identity primary key, flow text not null references flows, parent bigint references edits,
  recipe jsonb not null, what text not null, at timestamptz not null default now());
create index edits_by_parent on edits (flow, parent);
create table flow_files (flow text not null references flows, input text not null, place int not null, name text not null, hash text not null references files, primary key (flow, input, place));
create table runs (
  id text primary key, flow text not null references flows, edit bigint not null references edits, state text not null, sentence text,
  started_at timestamptz not null default now(), files jsonb not null default '[]', tables jsonb not null default '[]', outputs jsonb not null default '[]', asked jsonb not null default '{}');
create table links (token text primary key, flow text not null references flows, at timestamptz not null default now(), ended_at timestamptz);`,
  `-- what was ever brought in, by name and content; a source is where it came from and can be asked again
create table sources (id bigint generated always as identity primary key, kind text not null, name text not null, asked jsonb not null, at timestamptz not null default now());
create table shelf (
  id bigint generated always as identity primary key, name text not null, hash text not null references files, columns text[] not null default '{}',
  source bigint references sources, at timestamptz not null default now(), deleted_at timestamptz, unique (name, hash));
insert into shelf (name, hash) select distinct name, hash from flow_files;
create table connections (name text primary key, settings jsonb not null, secret text not null, at timestamptz not null default now());`,
  `-- looks at a table as a chart, and how each replay drew them
alter table flows add column pictures jsonb not null default '[]';
alter table runs add column pictures jsonb not null default '[]';`,
  `-- a replay can be told again exactly: its clock and all that was asked; one that the server's stop cut short is begun again
alter table runs add column clock bigint not null default 0, add column begun int not null default 1, add column link text references links, add column retells text references runs;
alter table links add column rights text not null default 'replay', add column note text not null default '', add column ends_at timestamptz, add column follows text not null default 'story';
create table link_uses (id bigint generated always as identity primary key, link text not null references links, what text not null, run text references runs, at timestamptz not null default now());
-- a named, frozen state of a story
create table editions (id bigint generated always as identity primary key, flow text not null references flows, edit bigint not null references edits, name text not null, note text not null default '', at timestamptz not null default now());`,
  `-- stories that replay themselves, what came of it, and the notices that lie in the stand-in of a mail box
alter table runs add column alone boolean not null default false;
create table watches (
  id text primary key, flow text not null references flows, settings jsonb not null, on_ boolean not null default true, next_at timestamptz,
  seen text[] not null default '{}', at timestamptz not null default now(), removed_at timestamptz);
create table watch_log (id bigint generated always as identity primary key, watch text not null references watches, what text not null, sentence text not null, run text references runs, files jsonb not null default '{}', at timestamptz not null default now());
create table mails (id bigint generated always as identity primary key, recipient text not null, subject text not null, body text not null, at timestamptz not null default now());`,
  `-- pictures belong to an edit, so that undo, editions and copies have them too
alter table edits add column pictures jsonb not null default '[]';
update edits set pictures = flows.pictures from flows where flows.id = edits.flow;
alter table flows drop column pictures;
-- what a watch tells for values that are asked
update watches set settings = settings || '{"parameters": {}}';`,
  `-- what a link may cost its owner, and what was sent by it each day
alter table links add column bytes_a_day bigint not null default 1000000000, add column waiting int not null default 3;
create table link_uploads (link text not null references links, day date not null default current_date, bytes bigint not null, primary key (link, day));
-- since when a story holds changes by link that its owner has not agreed to, and the edit before them; until then no database is written
alter table flows add column held_since timestamptz, add column held_from bigint references edits;`,
  `-- encrypted connections say whether the certificate is checked; those of before took any
update connections set settings = (settings - 'ssl') || jsonb_build_object('tls', case when settings->>'ssl' = 'true' then 'any' else 'none' end);`,
  `-- answers to findings take the place of renamed columns; what a run found, and what the next one is compared with
update runs set asked = (asked - 'renames') || jsonb_build_object('answers', coalesce((
  select jsonb_agg(jsonb_build_object('code', 'missing-column', 'input', input.key, 'column', name.value #>> '{}', 'offer',
    jsonb_build_object('do', 'rename', 'column', name.key, 'why', '')))
  from jsonb_each(asked->'renames') as input(key, value), jsonb_each(input.value) as name(key, value)), '[]'));
alter table runs add column findings jsonb not null default '[]', add column accounts jsonb, add column open_ int not null default 0, add column watch text;
create index runs_by_flow on runs (flow, started_at);`,
  'alter table runs rename column retells to repeats',
  `-- a story that was deleted can be taken back for 30 days; the last opened one is listed first
alter table flows add column deleted_at timestamptz, add column opened_at timestamptz`,
  `-- which rows of a larger file a file has, in words
alter table shelf add column sample text`,
]
