create function fx_average(variadic x float8[]) returns float8 immutable language sql as $$ select sum(v) / nullif(count(v), 0) from unnest(x) v $$;
