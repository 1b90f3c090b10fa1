create function fx_time(h float8, m float8, s float8) returns time immutable language sql as $$
  select case when x between 0 and 1e12 then time '00:00' + make_interval(secs => mod(x::numeric, 86400)::float8) end from (select (trunc(h) * 60 + trunc(m)) * 60 + trunc(s) x) t $$;
