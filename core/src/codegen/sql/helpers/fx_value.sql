-- needs: read_number
create function fx_value(t text) returns float8 immutable language sql as $$ select read_number(t, '.', ',') $$;
