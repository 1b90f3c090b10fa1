-- needs: date_within
create function op_later(d date, n float8) returns date immutable language sql as $$ select case when abs(n) < 4000000 then date_within(d + floor(n)::int) end $$;
create function op_later(d timestamp, n float8) returns timestamp immutable language sql as $$
  select case when abs(n) < 4000000 and date_within((d + make_interval(secs => round((n * 86400000)::numeric)::float8 / 1000))::date) is not null then date_trunc('milliseconds', d + make_interval(secs => round((n * 86400000)::numeric)::float8 / 1000)) end $$;
