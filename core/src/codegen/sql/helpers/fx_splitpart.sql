create function fx_splitpart(t text, s text, n float8) returns text immutable language sql as $$
  select nullif(p[case when trunc(n) > 0 then trunc(n) else cardinality(p) + 1 + trunc(n) end::int], '') from (select string_to_array(t, nullif(s, ''))) x(q), lateral (select coalesce(case when s = '' then array[t] else q end, array[t])) y(p) where trunc(n) <> 0 $$;
