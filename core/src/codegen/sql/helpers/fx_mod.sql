create function fx_mod(x float8, d float8) returns float8 immutable language sql as $$ select x - d * floor(x / nullif(d, 0)) $$;
create function fx_mod(x bigint, d bigint) returns bigint immutable language sql as $$ select (x::numeric - d * floor(x::numeric / nullif(d, 0)))::bigint $$;
