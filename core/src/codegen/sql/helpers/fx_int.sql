create function fx_int(x float8) returns bigint immutable language sql as $$ select case when abs(floor(x)) <= 9007199254740991 then floor(x)::bigint end $$;
