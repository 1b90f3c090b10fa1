create function fx_day(d timestamp) returns bigint immutable language sql as $$ select extract(day from d)::bigint $$;
