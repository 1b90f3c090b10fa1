create function pieces_by_pattern(t text, pattern text, way text, most int) returns text[] immutable language plpgsql as $fn$
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
end $fn$;
