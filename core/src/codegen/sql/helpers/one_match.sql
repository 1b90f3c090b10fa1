-- how many matches a row has: one at most
create function one_match(n bigint, keys text) returns bigint immutable language plpgsql as $fn$
begin
  if n > 1 then raise exception 'A row matches % rows by %, and only one match is allowed. Take the first, or make the rows there one of each.', n, keys; end if;
  return n;
end $fn$;
