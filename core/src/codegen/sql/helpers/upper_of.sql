-- needs: letters
create function upper_of(t text) returns text immutable language sql as $$ select upper(t collate letters) collate "C" $$;
