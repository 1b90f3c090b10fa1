create function fx_endswith(t text, p text) returns boolean immutable language sql as $$ select right(t, char_length(p)) = p $$;
