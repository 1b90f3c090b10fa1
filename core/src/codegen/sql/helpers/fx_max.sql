create function fx_max(variadic x bigint[]) returns bigint immutable language sql as $$ select MAX(v) from unnest(x) v $$;
create function fx_max(variadic x float8[]) returns float8 immutable language sql as $$ select MAX(v) from unnest(x) v $$;
