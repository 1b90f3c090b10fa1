create function put_matches(t text, spans int[], put text[], groups int[]) returns text immutable language plpgsql as $fn$
declare made text := ''; at int := 0; s int; e int;
begin
  for i in 1 .. coalesce(array_length(spans, 1), 0) loop
    made := made || substr(t, at + 1, spans[i][1] - at);
    for k in 1 .. cardinality(put) loop
      s := spans[i][2 * groups[k] + 1]; e := spans[i][2 * groups[k] + 2];
      made := made || case when groups[k] < 0 then put[k] when s >= 0 then substr(t, s + 1, e - s) else '' end;
    end loop;
    at := spans[i][2];
  end loop;
  return made || substr(t, at + 1);
end $fn$;
