create function fx_quotient(x float8, d float8) returns bigint immutable language sql as $$ select case when abs(x / nullif(d, 0)) <= 9007199254740991 then trunc(x / d)::bigint end $$;
