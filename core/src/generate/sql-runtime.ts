import { functions } from '../formula/functions/index.ts'
import { currencySigns } from '../table/number.ts'
import { falseWords, trueWords } from '../table/reading.ts'
import type { Block } from './blocks.ts'
import { patternFor } from './regex.ts'

/** White space as Unicode has it, spelled out for btrim. */
const spaceSigns =
  "E'\\t\\n\\x0b\\f\\r \\u0085\\u00a0\\u1680\\u2000\\u2001\\u2002\\u2003\\u2004\\u2005\\u2006\\u2007\\u2008\\u2009\\u200a\\u2028\\u2029\\u202f\\u205f\\u3000'"
const wordList = (all: readonly string[]): string => all.map((word) => `'${word}'`).join(', ')

/** Arithmetic on float8 that gives null where PostgreSQL would stop: out of range, or divided by zero. What is too small is 0. */
const guarded = (name: string, expression: string, tooSmall: string): string =>
  `create function op_${name}(a float8, b float8) returns float8 immutable strict language plpgsql as $$
begin
  return ${expression};
exception when numeric_value_out_of_range then return case when ${tooSmall} then 0 end;
when others then return null;
end $$;`

const sqlBlocks: readonly Block[] = [
  {
    source: `do $$ begin
  if current_setting('server_version_num')::int >= 180000 then execute 'create collation letters (provider = builtin, locale = ''PG_UNICODE_FAST'')';
  elsif current_setting('server_version_num')::int >= 170000 then execute 'create collation letters (provider = builtin, locale = ''C.UTF-8'')';
  else execute 'create collation letters (provider = icu, locale = ''und'')'; end if;
end $$;`,
  },
  {
    source: `create function lower_of(t text) returns text immutable language sql as $$ select lower(translate(t, 'İΣ', 'iσ') collate letters) collate "C" $$;`,
  },
  {
    source:
      'create function upper_of(t text) returns text immutable language sql as $$ select upper(t collate letters) collate "C" $$;',
  },
  { source: `create function spaces() returns text immutable language sql as $$ select ${spaceSigns} $$;` },
  { source: 'create function trim_of(t text) returns text immutable language sql as $$ select btrim(t, spaces()) $$;' },
  {
    source: `create function one_space(t text) returns text immutable language sql as $$ select regexp_replace(t, '[' || spaces() || ']+', ' ', 'g') $$;`,
  },
  {
    source: `-- each word's first letter large, the rest small; a word is letters, digits and apostrophes
create function title_of(t text) returns text immutable strict language plpgsql as $fn$
declare made text := ''; c text; begun boolean := false;
begin
  foreach c in array string_to_array(t, null) loop
    if not ((c collate letters) ~ '[[:alnum:]]' or c in ('''', '’')) then made := made || c; begun := false;
    elsif begun then made := made || lower_of(c);
    elsif (c collate letters) ~ '[[:alpha:]]' then made := made || upper_of(c); begun := true;
    else made := made || c; end if;
  end loop;
  return made;
end $fn$;`,
  },
  {
    source: `create function strip_digits(t text) returns text immutable language sql as $$ select regexp_replace(t, '${patternFor('sql', '\\p{Nd}')}', '', 'g') $$;`,
  },
  {
    source: `create function strip_letters(t text) returns text immutable language sql as $$ select regexp_replace(t, '${patternFor('sql', '\\p{L}')}', '', 'g') $$;`,
  },
  {
    source: `create function strip_punctuation(t text) returns text immutable language sql as $$ select regexp_replace(t, '${patternFor('sql', '\\p{P}')}', '', 'g') $$;`,
  },
  {
    source: `create function strip_invisible(t text) returns text immutable language sql as $$ select regexp_replace(t, '(?![' || spaces() || '])${patternFor('sql', '[\\p{Cc}\\p{Cf}]')}', '', 'g') $$;`,
  },
  {
    source: `-- text goes by its small letters, ties by the letters themselves
create function text_order(a text, b text) returns int immutable language sql as $$
  select case when a is null or b is null then null
    when lower_of(a) collate "C" < lower_of(b) collate "C" then -1 when lower_of(a) collate "C" > lower_of(b) collate "C" then 1
    when a collate "C" < b collate "C" then -1 when a collate "C" > b collate "C" then 1 else 0 end $$;`,
  },
  {
    source: `-- a text cut into pieces; what stands beyond the last piece stays joined in it
create function pieces_by_text(t text, d text, way text, most int) returns text[] immutable language sql as $$
  select case when t is null then null when strpos(t, d) = 0 or most = 1 then array[t]
    when way = 'first' then array[left(t, strpos(t, d) - 1), substr(t, strpos(t, d) + length(d))]
    when way = 'last' then array[left(t, length(t) - length(p[cardinality(p)]) - length(d)), p[cardinality(p)]]
    when cardinality(p) <= most then p else p[1:most - 1] || array_to_string(p[most:], d) end
  from (select string_to_array(t, d)) x(p) $$;`,
  },
  {
    source: `create function pieces_by_pattern(t text, pattern text, way text, most int) returns text[] immutable language plpgsql as $fn$
declare made text[] := '{}'; at int := 1; look int := 1; s int; e int; starts int[] := '{}'; ends int[] := '{}';
begin
  if t is null then return null; end if;
  loop
    exit when look > length(t);
    s := regexp_instr(t, pattern, look, 1, 0);
    exit when s = 0;
    e := regexp_instr(t, pattern, look, 1, 1);
    if e > s then starts := starts || s; ends := ends || e; look := e; else look := s + 1; end if;
  end loop;
  if way = 'first' then starts := starts[1:1]; ends := ends[1:1]; elsif way = 'last' then starts := starts[cardinality(starts):]; ends := ends[cardinality(ends):]; end if;
  for i in 1 .. coalesce(cardinality(starts), 0) loop
    exit when coalesce(cardinality(made), 0) + 1 >= most;
    made := made || substr(t, at, starts[i] - at); at := ends[i];
  end loop;
  return made || substr(t, at);
end $fn$;`,
  },
  {
    source: `create function pieces_by_widths(t text, widths int[], most int) returns text[] immutable language plpgsql as $fn$
declare made text[] := '{}'; at int := 1; n int := cardinality(widths);
begin
  if t is null then return null; end if;
  for i in 1 .. n loop
    exit when at > length(t);
    if i = n or i >= most or at + widths[i] > length(t) then return made || substr(t, at); end if;
    made := made || substr(t, at, widths[i]); at := at + widths[i];
  end loop;
  return made;
end $fn$;`,
  },
  {
    source: `-- a part of a text, by what stands beside it; nothing where it is not found
create function last_at(t text, w text) returns int immutable language sql as $$ select case when strpos(reverse(t), reverse(w)) = 0 then 0 else length(t) - strpos(reverse(t), reverse(w)) - length(w) + 2 end $$;
create function text_before(t text, w text, is_last boolean) returns text immutable language sql as $$ select case when at > 0 then left(t, at - 1) end from (select case when is_last then last_at(t, w) else strpos(t, w) end) x(at) $$;
create function text_after(t text, w text, is_last boolean) returns text immutable language sql as $$ select case when at > 0 then substr(t, at + length(w)) end from (select case when is_last then last_at(t, w) else strpos(t, w) end) x(at) $$;
create function text_between(t text, a text, b text, is_last boolean) returns text immutable language plpgsql as $fn$
declare found text; at int := 1; s int; e int;
begin
  loop
    s := strpos(substr(t, at), a);
    exit when coalesce(s, 0) = 0;
    s := at + s - 1 + length(a);
    e := strpos(substr(t, s), b);
    exit when e = 0;
    found := substr(t, s, e - 1);
    exit when not is_last;
    at := s - length(a) + 1;
  end loop;
  return found;
end $fn$;`,
  },
  {
    source: `-- the single value of a cell; a second is refused
create function only_one(given anyarray, place text) returns anyelement immutable language plpgsql as $fn$
begin
  if cardinality(given) > 1 then raise exception 'Two values meet in one cell of %: % and %. Choose a measure such as their sum, or another column that tells the rows apart.', place, given[1], given[2]; end if;
  return given[1];
end $fn$;`,
  },
  {
    source: `-- how many matches a row has: one at most
create function one_match(n bigint, keys text) returns bigint immutable language plpgsql as $fn$
begin
  if n > 1 then raise exception 'A row matches % rows by %, and only one match is allowed. Take the first, or make the rows there one of each.', n, keys; end if;
  return n;
end $fn$;`,
  },
  {
    source: `-- what was asked of the rows: told where it does not hold, and where so wished all stops
create function check_holds(passed boolean, figure float8, say text, stops boolean) returns boolean language plpgsql as $fn$
begin
  if not passed and stops then raise exception 'A check stops the run: % (%)', say, figure; end if;
  if not passed then raise warning 'A check does not hold: % (%)', say, figure; end if;
  return passed;
end $fn$;`,
  },
  {
    source: `create function natural_key(t text) returns text immutable language sql as $$
  select string_agg(case when m[1] ~ '^[0-9]' then '0' || lpad(length(d)::text, 4, '0') || d else m[1] end, '' order by n)
  from regexp_matches(lower_of(t), '[0-9]+|[^0-9]+', 'g') with ordinality as parts(m, n), lateral (select regexp_replace(m[1], '^0+(?=[0-9])', '')) s(d) $$;`,
  },
  {
    source: `-- a value as CSV writes it
create function shown(x text) returns text immutable language sql as $$ select x $$;
create function shown(x bigint) returns text immutable language sql as $$ select x::text $$;
create function shown(x boolean) returns text immutable language sql as $$ select x::text $$;
create function shown(x float8) returns text stable language sql as $$
  select case when x::numeric = 0 and abs(x) < 1e-300 then '0'
    when abs(x) >= 1e21 or abs(x) < 1e-7 then regexp_replace(regexp_replace(x::text, 'e\\+0*', 'e'), 'e-0*', 'e-')
    else trim_scale(x::numeric)::text end $$;
create function shown(x date) returns text immutable language sql as $$ select to_char(x, 'YYYY-MM-DD') $$;
create function shown(x timestamp) returns text immutable language sql as $$
  select to_char(x, 'YYYY-MM-DD"T"HH24:MI:SS') || case when to_char(x, 'MS') = '000' then '' else '.' || to_char(x, 'MS') end $$;
create function shown(x time) returns text immutable language sql as $$
  select to_char(x, 'HH24:MI:SS') || case when to_char(x, 'MS') = '000' then '' else '.' || to_char(x, 'MS') end $$;`,
  },
  {
    source: `create function csv_cell(t text) returns text immutable language sql as $$
  select case when t is null then '' when t ~ '[",\\r\\n]|^ | $' then '"' || replace(t, '"', '""') || '"' else t end $$;`,
  },
  {
    source: `-- whole numbers reach to 2^53 - 1; beyond is empty
create function whole(x numeric) returns bigint immutable language sql as $$ select case when abs(x) <= 9007199254740991 then x::bigint end $$;
create function whole(x bigint) returns bigint immutable language sql as $$ select case when x between -9007199254740991 and 9007199254740991 then x end $$;`,
  },
  {
    source: `create function to_whole(x float8) returns bigint immutable language sql as $$
  select case when abs(x) <= 9007199254740991 then case when x = trunc(x) then x::bigint else round(x::numeric)::bigint end end $$;`,
  },
  { source: guarded('plus', 'a + b', 'false') },
  { source: guarded('minus', 'a - b', 'false') },
  { source: guarded('times', 'a * b', 'abs(a) < 1 or abs(b) < 1') },
  { source: guarded('divide', 'a / b', 'abs(a) < 1 or abs(b) > 1') },
  { source: guarded('power', 'case when a = 0 and b < 0 then null else power(a, b) end', '(abs(a) < 1) = (b > 0)') },
  {
    source:
      'create function op_between(a timestamp, b timestamp) returns float8 immutable language sql as $$ select (extract(epoch from a - b) / 86400)::float8 $$;',
  },
  {
    source: `create function date_within(d date) returns date immutable language sql as $$ select case when d between date '0001-01-01' and date '9999-12-31' then d end $$;`,
  },
  {
    source: `create function op_later(d date, n float8) returns date immutable language sql as $$ select case when abs(n) < 4000000 then date_within(d + floor(n)::int) end $$;
create function op_later(d timestamp, n float8) returns timestamp immutable language sql as $$
  select case when abs(n) < 4000000 and date_within((d + make_interval(secs => round((n * 86400000)::numeric)::float8 / 1000))::date) is not null then date_trunc('milliseconds', d + make_interval(secs => round((n * 86400000)::numeric)::float8 / 1000)) end $$;`,
  },
  {
    source: `-- spaces at the ends, one currency sign, groups of thousands, (brackets) for minus, a trailing %
create function read_number(t text, decimal_mark text, group_mark text) returns float8 immutable strict language plpgsql as $fn$
declare m text[]; digits text; value float8;
begin
  m := regexp_match(trim_of(t), '^(\\()?([-+−])? ?([${currencySigns}])? ?([-+−])?(?:(' || case when group_mark = '' then '' else '[0-9]{1,3}(?:[' || group_mark || '][0-9]{3})+|' end
    || '[0-9]+)(?:[' || decimal_mark || ']([0-9]+))?|[' || decimal_mark || ']([0-9]+))([eE][-+]?[0-9]+)? ?([${currencySigns}])? ?(%)?(\\))?$');
  if m is null or (m[1] is null) <> (m[11] is null) or (m[3] is not null and m[9] is not null) or (m[2] is not null and m[4] is not null) or (m[1] is not null and coalesce(m[2], m[4]) is not null) then return null; end if;
  digits := coalesce(replace(m[5], group_mark, ''), '0') || '.' || coalesce(m[6], m[7], '0') || coalesce(m[8], '');
  begin value := digits::float8;
  exception when numeric_value_out_of_range then value := case when m[8] ~ '-' then 0 end; end;
  if m[10] is not null then value := value / 100; end if;
  return case when value = 0 then 0 when m[1] is not null or coalesce(m[2], m[4]) in ('-', '−') then -value else value end;
end $fn$;`,
  },
  {
    source:
      'create function read_integer(t text, decimal_mark text, group_mark text) returns bigint immutable language sql as $$ select to_whole(read_number(t, decimal_mark, group_mark)) $$;',
  },
  {
    source: `create function read_boolean(t text) returns boolean immutable language sql as $$
  select case when lower_of(trim_of(t)) in (${wordList(trueWords)}) then true when lower_of(trim_of(t)) in (${wordList(falseWords)}) then false end $$;`,
  },
  {
    source: `-- patterns are pairs of a regular expression and the names of its groups, tried in order
create function read_moment(t text, patterns text[], kind text) returns timestamp immutable strict language plpgsql as $fn$
declare m text[]; names text[]; i int; k int; part text; y int; mo int; d int; h int; h12 int; mi int; s int; ms int; half int;
begin
  for i in 1 .. coalesce(array_length(patterns, 1), 0) loop
    m := regexp_match(trim_of(t), patterns[i][1], 'i');
    continue when m is null;
    names := string_to_array(patterns[i][2], ' ');
    y := null; mo := 1; d := 1; h := 0; h12 := null; mi := 0; s := 0; ms := 0; half := 0;
    for k in 1 .. array_length(names, 1) loop
      part := m[k];
      continue when part is null;
      case names[k]
        when 'year' then y := part; when 'month' then mo := part; when 'day' then d := part;
        when 'year2' then y := part::int + case when part::int < 50 then 2000 else 1900 end;
        when 'monthName' then mo := array_position(array['jan','feb','mar','apr','may','jun','jul','aug','sep','oct','nov','dec'], lower(left(part, 3)));
        when 'hour' then h := part; when 'hour12' then h12 := part; when 'minute' then mi := part; when 'second' then s := part;
        when 'ms' then ms := rpad(part, 3, '0'); when 'half' then half := case when lower(left(part, 1)) = 'p' then 12 else 0 end;
        else null;
      end case;
    end loop;
    if h12 is not null then
      continue when h12 not between 1 and 12;
      h := h12 % 12 + half;
    end if;
    if kind = 'time' then y := 2000; mo := 1; d := 1; end if;
    continue when y is null or y not between 1 and 9999 or mo not between 1 and 12 or d < 1 or h > 23 or mi > 59 or s > 59;
    continue when d > extract(day from make_date(y, mo, 1) + interval '1 month - 1 day');
    return make_timestamp(y, mo, d, h, mi, s) + make_interval(secs => ms / 1000.0);
  end loop;
  return null;
end $fn$;`,
  },
  {
    source: `create function read_date(t text, patterns text[]) returns date immutable language sql as $$
  select read_moment(t, case when patterns = '{}' then array[['^([0-9]{4})-([0-9]{2})-([0-9]{2})$', 'year month day']] else patterns end, 'date')::date $$;`,
  },
  {
    source: `create function read_datetime(t text, patterns text[]) returns timestamp immutable language sql as $$
  select read_moment(t, case when patterns = '{}' then array[['^([0-9]{4})-([0-9]{2})-([0-9]{2})(?:[T ]([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\\.([0-9]{1,3}))?)?)?$', 'year month day hour minute second ms']] else patterns end, 'datetime') $$;`,
  },
  {
    source: `create function read_time(t text, patterns text[]) returns time immutable language sql as $$
  select read_moment(t, case when patterns = '{}' then array[['^([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\\.([0-9]{1,3}))?)?$', 'hour minute second ms']] else patterns end, 'time')::time $$;`,
  },
  {
    source: `-- compensated sums (Neumaier), so that ten times 0.1 is 1
create function exact_add(state float8[], x float8) returns float8[] immutable language sql as $$
  select case when x is null then state else array[state[1] + x, state[2] + case when abs(state[1]) >= abs(x) then (state[1] - (state[1] + x)) + x else (x - (state[1] + x)) + state[1] end, 1] end $$;
create function exact_total(state float8[]) returns float8 immutable language sql as $$ select case when state[3] = 1 then state[1] + state[2] end $$;
create aggregate exact_sum(float8) (sfunc = exact_add, stype = float8[], finalfunc = exact_total, initcond = '{0,0,0}');`,
  },
  {
    source: `-- in two passes, of what each value is above the first, so that equal values deviate by nothing
create function deviation_of(v float8[]) returns float8 immutable language sql as $$
  select case when count(*) > 1 then sqrt(exact_sum(case when abs(x - v[1] - m) > 1e-150 then (x - v[1] - m) * (x - v[1] - m) else 0 end order by at) / (count(*) - 1)) end
  from unnest(v) with ordinality u(x, at), (select exact_sum(y - v[1] order by at) / count(*) m from unnest(v) with ordinality w(y, at)) a $$;`,
  },
  {
    source:
      "create function run_moment() returns timestamp stable language sql as $$ select current_setting('fabula.now')::timestamp $$;",
  },
  { source: 'create function run_day() returns date stable language sql as $$ select run_moment()::date $$;' },
  {
    source: `-- a text file as rows of cells; quotes may hold delimiters and line breaks
create function csv_rows(content text, delimiter text, quote text) returns table(line bigint, cells text[]) language plpgsql as $fn$
declare body text := case when right(content, 1) = E'\\n' then content else content || E'\\n' end; q text := '\\' || quote; d text := case when delimiter ~ '[[:alnum:]]' then delimiter else '\\' || delimiter end;
begin
  if body !~ E'[^\\r\\n]' then return; end if;
  if strpos(body, E'\\n') = length(body) and strpos(body, E'\\r') > 0 then body := replace(body, E'\\r', E'\\n'); end if;
  if strpos(body, quote) = 0 then
    return query select n, string_to_array(rtrim(t, E'\\r'), delimiter) from string_to_table(left(body, -1), E'\\n') with ordinality as lines(t, n);
  else
    return query
      with parts as (
        select n, m[1] as cell, m[2] <> delimiter as ends
        from regexp_matches(body, '(' || q || '(?:[^' || q || ']|' || q || q || ')*' || q || '|[^' || d || '\\n]*)\\r?(' || d || '|\\n)', 'g') with ordinality as found(m, n)
      ), numbered as (select *, count(*) filter (where ends) over (order by n) + case when ends then 0 else 1 end as row from parts)
      select row, array_agg(case when left(cell, 1) = quote then replace(substr(cell, 2, length(cell) - 2), quote || quote, quote) else rtrim(cell, E'\\r') end order by n) from numbered group by row;
  end if;
end $fn$;`,
  },
  {
    source: `create table sheet_files (input text, file int, name text, lines bigint);
create table sheet_lines (input text, file int, line bigint, cells text[]);
-- names that clash get a number, missing ones say their position
create function header_names(cells text[], width int) returns text[] immutable language plpgsql as $fn$
declare made text[] := '{}'; wanted text; free text; n int;
begin
  for i in 1 .. width loop
    wanted := coalesce(nullif(cells[i], ''), 'Column ' || i); free := wanted; n := 2;
    while free = any(made) loop free := wanted || ' ' || n; n := n + 1; end loop;
    made := made || free;
  end loop;
  return made;
end $fn$;
-- several rows of names as one; an upper name goes on to the right
create function joined_names(which text, at int, headers int[]) returns text[] stable language plpgsql as $fn$
declare heads text[][]; made text[] := '{}'; part text; parts text[]; last text[] := '{}'; width int; depth int := cardinality(headers);
begin
  if depth = 0 then return '{}'; end if;
  if depth = 1 then return (select l.cells from sheet_lines l where l.input = which and l.file = at and l.line = headers[1]); end if;
  select coalesce(max(cardinality(l.cells)), 0) into width from sheet_lines l where l.input = which and l.file = at and l.line = any(headers);
  for c in 1 .. width loop
    parts := '{}';
    for h in 1 .. depth loop
      select coalesce(nullif(l.cells[c], ''), case when h < depth then last[h] end) into part from sheet_lines l where l.input = which and l.file = at and l.line = (select v from unnest(headers) v order by v offset h - 1 limit 1);
      last[h] := part;
      if part is not null and not part = any(parts) then parts := parts || part; end if;
    end loop;
    made := made || array_to_string(parts, ' ');
  end loop;
  return made;
end $fn$;
create function sheet_heads(which text, headers int[]) returns table(file int, names text[]) stable language sql as $fn$
  select f.file, header_names(n.names, greatest(coalesce(cardinality(n.names), 0),
    (select coalesce(max(cardinality(l.cells)), 0) from sheet_lines l where l.input = which and l.file = f.file and l.line > coalesce((select max(v) from unnest(headers) v), 0))))
  from sheet_files f, lateral (select joined_names(which, f.file, headers)) n(names) where f.input = which $fn$;
create function sheet_rows(which text, headers int[], skipped int, footer int) returns table("¶" bigint, names text[], cells text[], file_name text) stable language sql as $fn$
  select row_number() over (order by l.file, l.line), h.names, l.cells, f.name
  from sheet_lines l join sheet_files f on f.input = l.input and f.file = l.file join sheet_heads(which, headers) h on h.file = l.file
  where l.input = which and l.line > coalesce((select max(v) from unnest(headers) v), 0) + skipped and l.line <= f.lines - footer and exists (select from unnest(l.cells) c where c <> '') $fn$;
create procedure require_columns(which text, label text, headers int[], wanted text[], known jsonb) language plpgsql as $fn$
declare missing text;
begin
  select string_agg('“' || w || '”', ', ') into missing from unnest(wanted) w where not exists (select from sheet_heads(which, headers) h where w = any(h.names) or exists (select from jsonb_each_text(known) k where k.value = w and k.key = any(h.names)));
  if missing is not null then raise exception 'The file for % has no column %. Give a file that has it, or rename the column in it.', label, missing; end if;
end $fn$;`,
  },
]

export const sqlRuntime: readonly Block[] = [
  ...sqlBlocks,
  ...functions.flatMap(({ sqlHelper }) => (sqlHelper ? [{ source: sqlHelper }] : [])),
]
