-- needs: letters
create function fx_search(w text, t text, f float8 default 1) returns bigint immutable language sql as $$
  select case when trunc(f) >= 1 and trunc(f) <= char_length(t) + 1 and strpos(lower_of(substr(t, trunc(f)::int)), lower_of(w)) > 0 then (strpos(lower_of(substr(t, trunc(f)::int)), lower_of(w)) + trunc(f) - 1)::bigint end $$;
