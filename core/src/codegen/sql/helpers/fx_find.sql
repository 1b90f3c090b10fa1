create function fx_find(w text, t text, f float8 default 1) returns bigint immutable language sql as $$
  select case when trunc(f) >= 1 and trunc(f) <= char_length(t) + 1 and strpos(substr(t, trunc(f)::int), w) > 0 then (strpos(substr(t, trunc(f)::int), w) + trunc(f) - 1)::bigint end $$;
