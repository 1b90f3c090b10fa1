create function fx_isoweeknum(d timestamp) returns bigint immutable language sql as $$ select extract(week from d)::bigint $$;
