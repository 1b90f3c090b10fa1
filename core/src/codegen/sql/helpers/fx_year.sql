create function fx_year(d timestamp) returns bigint immutable language sql as $$ select extract(year from d)::bigint $$;
