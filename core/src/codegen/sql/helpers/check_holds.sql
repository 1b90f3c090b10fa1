-- what was asked of the rows: told where it does not hold, and where so wished all stops
create function check_holds(passed boolean, figure float8, say text, stops boolean) returns boolean language plpgsql as $fn$
begin
  if not passed and stops then raise exception 'A check stops the run: % (%)', say, figure; end if;
  if not passed then raise warning 'A check does not hold: % (%)', say, figure; end if;
  return passed;
end $fn$;
