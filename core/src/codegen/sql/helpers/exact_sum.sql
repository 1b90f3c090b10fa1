-- compensated sums (Neumaier), so that ten times 0.1 is 1
create function exact_add(state float8[], x float8) returns float8[] immutable language plpgsql as $fn$
declare before float8 := state[1]; after float8 := before + x;
begin
  if x is null then return state; end if;
  return array[after, state[2] + case when abs(before) >= abs(x) then (before - after) + x else (x - after) + before end, 1];
end $fn$;
create function exact_total(state float8[]) returns float8 immutable language sql as $$ select case when state[3] = 1 then state[1] + state[2] end $$;
create aggregate exact_sum(float8) (sfunc = exact_add, stype = float8[], finalfunc = exact_total, initcond = '{0,0,0}');
