-- needs: spaces, trim_of
create function fx_trim(t text) returns text immutable language sql as $$ select nullif(regexp_replace(trim_of(t), '[' || spaces() || ']+', ' ', 'g'), '') $$;
