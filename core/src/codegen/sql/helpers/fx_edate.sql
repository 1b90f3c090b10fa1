-- needs: date_within
create function fx_edate(d timestamp, m float8) returns date immutable language sql as $$
  select case when abs(trunc(m)) <= 120000 then date_within((d::date + make_interval(months => trunc(m)::int))::date) end $$;
