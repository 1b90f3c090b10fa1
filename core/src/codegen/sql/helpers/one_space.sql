-- needs: spaces
create function one_space(t text) returns text immutable language sql as $$ select regexp_replace(t, '[' || spaces() || ']+', ' ', 'g') $$;
