create function fx_sign(x float8) returns bigint immutable language sql as $$ select sign(x)::bigint $$;
