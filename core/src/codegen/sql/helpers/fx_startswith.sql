create function fx_startswith(t text, p text) returns boolean immutable language sql as $$ select starts_with(t, p) $$;
