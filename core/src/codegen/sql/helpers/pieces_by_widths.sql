create function pieces_by_widths(t text, widths int[], most int) returns text[] immutable language plpgsql as $fn$
declare made text[] := '{}'; at int := 1; n int := cardinality(widths);
begin
  if t is null then return null; end if;
  for i in 1 .. n loop
    exit when at > length(t);
    if i = n or i >= most or at + widths[i] > length(t) then return made || substr(t, at); end if;
    made := made || substr(t, at, widths[i]); at := at + widths[i];
  end loop;
  return made;
end $fn$;
