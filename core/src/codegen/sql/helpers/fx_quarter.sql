create function fx_quarter(d timestamp) returns bigint immutable language sql as $$ select extract(quarter from d)::bigint $$;
