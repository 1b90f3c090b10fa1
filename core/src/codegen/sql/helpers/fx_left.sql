create function fx_left(t text, n float8 default 1) returns text immutable language sql as $$ select case when trunc(n) >= 0 then nullif(left(t, least(trunc(n), 1000000000)::int), '') end $$;
