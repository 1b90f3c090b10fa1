create function fx_sqrt(x float8) returns float8 immutable language sql as $$ select case when x >= 0 then sqrt(x) end $$;
