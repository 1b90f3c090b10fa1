create function put_matches(t text, found int[], put text[], groups int[]) returns text immutable language plpgsql as $fn$
declare made text := ''; at int := 0; s int; e int;
begin
  for i in 1 .. coalesce(array_length(found, 1), 0) loop
    made := made || substr(t, at + 1, found[i][1] - at);
    for k in 1 .. cardinality(put) loop
      s := found[i][2 * groups[k] + 1]; e := found[i][2 * groups[k] + 2];
      made := made || case when groups[k] < 0 then put[k] when s >= 0 then substr(t, s + 1, e - s) else '' end;
    end loop;
    at := found[i][2];
  end loop;
  return made || substr(t, at + 1);
end $fn$;
