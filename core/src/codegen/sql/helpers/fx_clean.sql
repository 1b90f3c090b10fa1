create function fx_clean(t text) returns text immutable language sql as $$ select nullif(regexp_replace(t, '[\u0000-\u001f\u007f-\u009f]', '', 'g'), '') $$;
