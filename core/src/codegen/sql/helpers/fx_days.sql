create function fx_days(e timestamp, s timestamp) returns bigint immutable language sql as $$ select (e::date - s::date)::bigint $$;
