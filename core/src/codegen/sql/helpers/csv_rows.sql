-- the cells of a record; null where its quotes are not as RFC 4180 has them
create function csv_cells(record text, delimiter text, quote text) returns text[] immutable language plpgsql as $fn$
declare parts text[] := string_to_array(record, quote); cells text[]; cell text; mark text := E'\x01';
begin
  if cardinality(parts) <= 1 then return string_to_array(record, delimiter); end if;
  if strpos(record, mark) > 0 or cardinality(parts) % 2 = 0 then return null; end if;
  -- every second part stands outside of quotes, where a delimiter ends a cell
  for i in 1 .. cardinality(parts) by 2 loop parts[i] := replace(parts[i], delimiter, mark); end loop;
  cells := string_to_array(array_to_string(parts, quote), mark);
  for i in 1 .. cardinality(cells) loop
    cell := cells[i];
    if strpos(cell, quote) > 0 then
      if left(cell, 1) <> quote or right(cell, 1) <> quote or length(cell) < 2 then return null; end if;
      cell := replace(substr(cell, 2, length(cell) - 2), quote || quote, mark);
      if strpos(cell, quote) > 0 then return null; end if;
      cells[i] := replace(cell, mark, quote);
    end if;
  end loop;
  return cells;
end $fn$;
-- any text as rows of cells, whatever its quotes are
create function csv_rows_by_pattern(body text, delimiter text, quote text) returns table(line bigint, cells text[]) language sql as $fn$
  with parts as (
    select n, m[1] as cell, m[2] <> delimiter as ends
    from regexp_matches(body, format('(%1$s(?:[^%1$s]|%1$s%1$s)*%1$s|[^%2$s\n]*)\r?(%2$s|\n)', '\' || quote, case when delimiter ~ '[[:alnum:]]' then delimiter else '\' || delimiter end), 'g') with ordinality as found(m, n)
  ), numbered as (select *, count(*) filter (where ends) over (order by n) + case when ends then 0 else 1 end as row from parts)
  select row, array_agg(case when left(cell, 1) = quote then replace(substr(cell, 2, length(cell) - 2), quote || quote, quote) else rtrim(cell, E'\r') end order by n) from numbered group by row $fn$;
-- the lines of the file that is being read, each behind a sign, as psql would take a line of \. for the end; control signs stand for
-- those that COPY reads otherwise
create temp table sheet_text (n bigint generated always as identity, t text);
-- the lines of that file; where line feeds are missing, carriage returns end them
create function text_lines() returns table(n bigint, t text) stable language sql as $fn$
  with lines as (select s.n, ltrim(translate(substr(s.t, 2), E'\x03\x04\x05', E'\r\x01\x02'), case when s.n = 1 then E'\ufeff' else '' end) as t from sheet_text s)
  select l.n, l.t from lines l where (select count(*) from sheet_text) > 1
  union all select p.n, p.t from lines l, string_to_table(rtrim(l.t, E'\r'), E'\r') with ordinality as p(t, n) where (select count(*) from sheet_text) = 1 $fn$;
-- that file as rows of cells; quotes may hold delimiters and line breaks
create function csv_rows(delimiter text, quote text) returns table(line bigint, cells text[]) language plpgsql as $fn$
begin
  if not exists (select from sheet_text s where substr(s.t, 2) ~ E'[^\x03]') then return; end if;
  if not exists (select from sheet_text s where strpos(s.t, quote) > 0) then
    return query select l.n, string_to_array(rtrim(l.t, E'\r'), delimiter) from text_lines() l;
  else
    return query
      with lines as (
        select l.n, l.t, coalesce(sum(length(l.t) - length(replace(l.t, quote, ''))) over (order by l.n rows between unbounded preceding and 1 preceding), 0) % 2 = 0 as begins
        from text_lines() l
      ), numbered as (select *, count(*) filter (where begins) over (order by n) as row from lines),
      whole as (select row, string_agg(t, E'\n' order by n) as record from numbered group by row),
      records as materialized (select row, csv_cells(rtrim(record, E'\r'), delimiter, quote) as cells from whole),
      sound as (select not exists (select from records r where r.cells is null) as yes)
      select r.row, r.cells from records r where (select yes from sound)
      union all select a.line, a.cells from csv_rows_by_pattern((select string_agg(l.t, E'\n' order by l.n) || E'\n' from text_lines() l), delimiter, quote) a where not (select yes from sound);
  end if;
end $fn$;
