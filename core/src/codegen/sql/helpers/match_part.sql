create function match_part(t text, spans int[], which int, last boolean) returns text immutable language plpgsql as $fn$
declare at int := case when last then array_length(spans, 1) else 1 end; s int := spans[at][2 * which + 1];
begin
  return case when s >= 0 then substr(t, s + 1, spans[at][2 * which + 2] - s) end;
end $fn$;
