create function fx_min(variadic x bigint[]) returns bigint immutable language sql as $$ select MIN(v) from unnest(x) v $$;
create function fx_min(variadic x float8[]) returns float8 immutable language sql as $$ select MIN(v) from unnest(x) v $$;
