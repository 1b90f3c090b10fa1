create function fx_month(d timestamp) returns bigint immutable language sql as $$ select extract(month from d)::bigint $$;
