create function fx_ln(x float8) returns float8 immutable language sql as $$ select case when x > 0 then ln(x) end $$;
