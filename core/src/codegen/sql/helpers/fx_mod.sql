-- what is left after dividing, exact; it has the sign of the divisor
create function fx_mod(x bigint, d bigint) returns bigint immutable language sql as $$ select case when m <> 0 and (m < 0) <> (d < 0) then m + d else m end from (select x % nullif(d, 0) m) t $$;
-- long division by multiples of d that are powers of two: each difference is exact
create function fx_mod(x float8, d float8) returns float8 immutable strict language plpgsql as $fn$
declare rest float8 := abs(x); step float8 := abs(d);
begin
  if d = 0 then return null; end if;
  while step <= rest - step loop step := step * 2; end loop;
  loop
    if rest >= step then rest := rest - step; end if;
    exit when step = abs(d);
    step := step / 2;
  end loop;
  return case when rest = 0 then 0 when (x < 0) <> (d < 0) then d - sign(d) * rest else sign(d) * rest end;
end $fn$;
