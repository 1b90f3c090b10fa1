create function fx_weeknum(d timestamp) returns bigint immutable language sql as $$ select ((extract(doy from d) - 1 + extract(isodow from date_trunc('year', d)) - 1)::bigint) / 7 + 1 $$;
