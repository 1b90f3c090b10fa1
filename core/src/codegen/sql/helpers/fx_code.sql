create function fx_code(t text) returns bigint immutable language sql as $$ select ascii(t)::bigint $$;
