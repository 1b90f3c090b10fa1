-- needs: sheet_rows
-- the rows of a table of the database as those of a file: names on the last of its rows of names, cells as texts
create procedure table_lines(which text, label text, place text, variable text, headers int[], skipped int, footer int) language plpgsql as $fn$
declare wanted regclass := to_regclass(place); names text[]; top int := coalesce((select max(v) from unnest(headers) v), 0); cells text; count bigint;
begin
  if wanted is null then raise exception 'There is no table % for %. Name one with its schema: -v %=schema.table', place, label, variable; end if;
  select array_agg(attname::text order by attnum), string_agg(format('coalesce(to_jsonb(t.%I) #>> ''{}'', '''')', attname), ', ' order by attnum) into names, cells
    from pg_attribute where attrelid = wanted and attnum > 0 and not attisdropped;
  if top > 0 then insert into sheet_lines values (which, 1, top, names); end if;
  execute format('insert into sheet_lines select %L, 1, %s + row_number() over (), array[%s] from %s t', which, top + skipped, cells, wanted);
  get diagnostics count = row_count;
  insert into sheet_files values (which, 1, wanted::text, top + skipped + count + footer, wanted::text);
exception when insufficient_privilege then
  raise exception 'The table % for % may not be read by %.', place, label, current_user;
end $fn$;
