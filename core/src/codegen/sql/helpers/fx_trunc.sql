create function fx_trunc(x float8, n float8 default 0) returns float8 immutable language sql as $$
  select case when n is null then null when n >= 0 and x = trunc(x) then x else trunc(x::numeric, greatest(-400, least(400, trunc(n)))::int)::float8 end $$;
