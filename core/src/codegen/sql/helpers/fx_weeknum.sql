create function fx_weeknum(d timestamp, mode bigint default 11) returns bigint immutable language sql as $$
  select case when mode = 21 then extract(week from d)::bigint
    else (extract(doy from d)::bigint - 1 + (extract(isodow from date_trunc('year', d))::bigint - 1 - case mode when 1 then 6 when 2 then 0 else mode - 11 end + 7) % 7) / 7 + 1 end $$;
