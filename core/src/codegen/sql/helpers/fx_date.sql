create function fx_date(y float8, m float8, d float8) returns date immutable language sql as $$
  select case when i between -120000 and 1200000 and n between 0 and 3652058 then date '0001-01-01' + n::int end
  from (select trunc(y) * 12 + trunc(m) - 1 i) a,
    lateral (select floor(i / 12) - case when i - floor(i / 12) * 12 < 2 then 1 else 0 end c, i - floor(i / 12) * 12 - 2 + case when i - floor(i / 12) * 12 < 2 then 12 else 0 end p) b,
    lateral (select c * 365 + floor(c / 4) - floor(c / 100) + floor(c / 400) + floor((153 * p + 2) / 5) - 306 + trunc(d) - 1 n) e $$;
