create function fx_unicode(t text) returns bigint immutable language sql as $$ select ascii(t)::bigint $$;
