create function fx_replace(t text, s float8, n float8, w text) returns text immutable language sql as $$
  select case when trunc(s) >= 1 and trunc(n) >= 0 then nullif(left(t, least(trunc(s), 1000000000)::int - 1) || w || substr(t, least(trunc(s) + trunc(n), 1000000000)::int), '') end $$;
