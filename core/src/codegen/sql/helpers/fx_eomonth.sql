-- needs: date_within
create function fx_eomonth(d timestamp, m float8) returns date immutable language sql as $$
  select case when abs(trunc(m)) <= 120000 then date_within((date_trunc('month', d) + make_interval(months => trunc(m)::int + 1) - interval '1 day')::date) end $$;
