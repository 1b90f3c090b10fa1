-- needs: date_within, fx_networkdays
create function fx_workday(s timestamp, n float8) returns date immutable language sql as $$
  select case when abs(trunc(n)) <= 3000000 then date_within(case when trunc(n) = 0 then s::date else date '1970-01-01' + (floor((f - 1) / 5.0)::int * 7 + mod(mod(f - 1, 5) + 5, 5)::int - 3) end) end
  from (select case when trunc(n) > 0 then workdays_to(s::date) + trunc(n)::bigint else workdays_to(s::date - 1) + trunc(n)::bigint + 1 end f) t $$;
