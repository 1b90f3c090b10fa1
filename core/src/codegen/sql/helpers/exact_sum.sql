-- compensated sums (Neumaier), so that ten times 0.1 is 1
create function exact_add(state float8[], x float8) returns float8[] immutable language sql as $$
  select case when x is null then state else array[state[1] + x, state[2] + case when abs(state[1]) >= abs(x) then (state[1] - (state[1] + x)) + x else (x - (state[1] + x)) + state[1] end, 1] end $$;
create function exact_total(state float8[]) returns float8 immutable language sql as $$ select case when state[3] = 1 then state[1] + state[2] end $$;
create aggregate exact_sum(float8) (sfunc = exact_add, stype = float8[], finalfunc = exact_total, initcond = '{0,0,0}');
