-- needs: letters
create function lower_of(t text) returns text immutable language sql as $$ select lower(translate(t, 'İΣ', 'iσ') collate letters) collate "C" $$;
