create function fx_weekday(d timestamp, k bigint default 1) returns bigint immutable language sql as $$
  select case when k = 3 then w else (w - case k when 1 then 6 when 2 then 0 else k - 11 end + 7) % 7 + 1 end from (select extract(isodow from d)::bigint - 1 w) t $$;
