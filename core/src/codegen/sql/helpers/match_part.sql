create function match_part(t text, found int[], which int, last boolean) returns text immutable language plpgsql as $fn$
declare at int := case when last then array_length(found, 1) else 1 end; s int := found[at][2 * which + 1];
begin
  return case when s >= 0 then substr(t, s + 1, found[at][2 * which + 2] - s) end;
end $fn$;
