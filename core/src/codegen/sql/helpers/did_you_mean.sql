-- how many signs of one text are to be changed, put in or taken out to give another (V. Levenshtein, 1966)
create function edit_distance(a text, b text) returns int immutable language plpgsql as $fn$
declare before int[] := array(select generate_series(0, length(b))); now int[];
begin
  for i in 1 .. length(a) loop
    now := array[i];
    for j in 1 .. length(b) loop
      now := now || least(before[j + 1] + 1, now[j] + 1, before[j] + (substr(a, i, 1) <> substr(b, j, 1))::int);
    end loop;
    before := now;
  end loop;
  return before[length(b) + 1];
end $fn$;
-- an offer of the names most like one that is not there, three at most
create function did_you_mean(wanted text, names text[]) returns text immutable language sql as $fn$
  select coalesce(' Did you mean ' || string_agg('“' || name || '”', ' or ' order by score, n) || '?', '') from (
    select name, n, score from (
      select name, n, case when strpos(lower(name), lower(wanted)) > 0 or strpos(lower(wanted), lower(name)) > 0 then least(2, edit_distance(lower(wanted), lower(name))) else edit_distance(lower(wanted), lower(name)) end
      from unnest(names) with ordinality as u(name, n)) scored(name, n, score)
    where score <= greatest(1, floor(greatest(length(name), length(wanted)) * 0.4)) order by score, n limit 3) near $fn$;
