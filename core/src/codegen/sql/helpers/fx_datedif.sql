create function moved_months(d date, m int) returns date immutable language sql as $$ select (d + make_interval(months => m))::date $$;
create function fx_datedif(s timestamp, e timestamp, u text) returns bigint immutable language sql as $$
  select case when a > b then null when u = 'y' then m / 12 when u = 'm' then m when u = 'd' then b - a when u = 'ym' then m % 12 when u = 'yd' then b - moved_months(a, m / 12 * 12) else b - moved_months(a, m) end::bigint
  from (select s::date a, e::date b, ((extract(year from e) - extract(year from s)) * 12 + extract(month from e) - extract(month from s) - case when extract(day from e) < extract(day from s) then 1 else 0 end)::int m) t $$;
