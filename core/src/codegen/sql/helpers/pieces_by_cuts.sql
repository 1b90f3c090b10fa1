create function pieces_by_cuts(t text, cuts int[], way text, most int) returns text[] immutable language plpgsql as $fn$
declare made text[] := '{}'; at int := 0; n int := 0; used int[] := '{}';
begin
  if t is null then return null; end if;
  for i in 1 .. coalesce(array_length(cuts, 1), 0) loop
    if cuts[i][2] > cuts[i][1] then used := used || i; end if;
  end loop;
  n := cardinality(used);
  if way = 'first' then used := used[1:1]; elsif way = 'last' then used := used[n:]; end if;
  foreach n in array used loop
    exit when cardinality(made) + 1 >= most;
    made := made || substr(t, at + 1, cuts[n][1] - at); at := cuts[n][2];
  end loop;
  return made || substr(t, at + 1);
end $fn$;
