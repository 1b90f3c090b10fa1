create function fx_log10(x float8) returns float8 immutable language sql as $$ select case when x > 0 then log(x) end $$;
