create function fx_abs(x bigint) returns bigint immutable language sql as $$ select abs(x) $$;
create function fx_abs(x float8) returns float8 immutable language sql as $$ select abs(x) $$;
