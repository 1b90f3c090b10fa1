create function cuts_by_pattern(t text, pattern text) returns int[] immutable language plpgsql as $fn$
declare made int[] := '{}'; look int := 1; s int;
begin
  while look <= length(t) loop
    s := regexp_instr(t, pattern, look, 1, 0);
    exit when s = 0;
    look := regexp_instr(t, pattern, look, 1, 1); made := made || array[array[s - 1, look - 1]];
  end loop;
  return made;
end $fn$;
