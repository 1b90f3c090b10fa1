create function fx_padleft(t text, n float8, f text default ' ') returns text immutable language sql as $$
  select case when trunc(n) <= 1000000 and f <> '' then case when trunc(n) <= char_length(t) then t else lpad(t, trunc(n)::int, f) end end $$;
