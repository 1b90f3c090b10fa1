-- needs: say_or_stop, did_you_mean
create temp table sheet_files (input text, file int, name text, lines bigint, path text, names text[], at int[]);
create temp table sheet_lines (input text, file int, line bigint, cells text[]);
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
create function sheet_rows(which text, headers int[], skipped int, footer int) returns table("¶" bigint, at int[], cells text[], file_name text, file int, line bigint) stable language sql as $fn$
  select row_number() over (order by l.file, l.line), f.at, l.cells, f.name, l.file, l.line
  from sheet_lines l join sheet_files f on f.input = l.input and f.file = l.file
  where l.input = which and l.line > coalesce((select max(v) from unnest(headers) v), 0) + skipped and l.line <= f.lines - footer and array_to_string(l.cells, '') <> '' $fn$;
create procedure require_columns(which text, label text, headers int[], wanted text[], known jsonb) language plpgsql as $fn$
declare missing text; near text; more text;
begin
  update sheet_files f set names = h.names from sheet_heads(which, headers) h where f.input = which and f.file = h.file;
  update sheet_files f set at = array(select coalesce(array_position(f.names, w), (select min(array_position(f.names, k.key)) from jsonb_each_text(known) k where k.value = w)) from unnest(wanted) with ordinality as u(w, n) order by n) where f.input = which;
  select string_agg('“' || w || '”', ', '), string_agg(distinct did_you_mean(w, array(select distinct n from sheet_files f, unnest(f.names) n where f.input = which order by n)), '') into missing, near from unnest(wanted) w where not exists (select from sheet_files f where f.input = which and (w = any(f.names) or exists (select from jsonb_each_text(known) k where k.value = w and k.key = any(f.names))));
  if missing is not null then raise exception 'The file for % has no column %.% Give a file that has it, or rename the column in it.', label, missing, near; end if;
  for more in select distinct n from sheet_files f, unnest(f.names) n where f.input = which and n <> all(wanted) and not known ? n order by n loop
    call say_or_stop(format('The file for %s has a column “%s” that this script was not made with; it is passed over.', label, more));
  end loop;
end $fn$;
create procedure too_many_files(label text, most int) language plpgsql as $fn$
begin
  raise exception 'More than % files are given for %, and this script reads no more. Stack them first: fabula csv writes all files of an input as one.', most, label;
end $fn$;
