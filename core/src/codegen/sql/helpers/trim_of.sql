-- needs: spaces
create function trim_of(t text) returns text immutable language sql as $$ select btrim(t, spaces()) $$;
