-- a text file as rows of cells; quotes may hold delimiters and line breaks
create function csv_rows(content text, delimiter text, quote text) returns table(line bigint, cells text[]) language plpgsql as $fn$
declare body text := case when right(content, 1) = E'\n' then content else content || E'\n' end; q text := '\' || quote; d text := case when delimiter ~ '[[:alnum:]]' then delimiter else '\' || delimiter end;
begin
  if body !~ E'[^\r\n]' then return; end if;
  if strpos(body, E'\n') = length(body) and strpos(body, E'\r') > 0 then body := replace(body, E'\r', E'\n'); end if;
  if strpos(body, quote) = 0 then
    return query select n, string_to_array(rtrim(t, E'\r'), delimiter) from string_to_table(left(body, -1), E'\n') with ordinality as lines(t, n);
  else
    return query
      with parts as (
        select n, m[1] as cell, m[2] <> delimiter as ends
        from regexp_matches(body, '(' || q || '(?:[^' || q || ']|' || q || q || ')*' || q || '|[^' || d || '\n]*)\r?(' || d || '|\n)', 'g') with ordinality as found(m, n)
      ), numbered as (select *, count(*) filter (where ends) over (order by n) + case when ends then 0 else 1 end as row from parts)
      select row, array_agg(case when left(cell, 1) = quote then replace(substr(cell, 2, length(cell) - 2), quote || quote, quote) else rtrim(cell, E'\r') end order by n) from numbered group by row;
  end if;
end $fn$;
