-- needs: read_number
create function fx_isnumber(t text) returns boolean immutable language sql as $$ select t is not null and read_number(t, '.', ',') is not null $$;
