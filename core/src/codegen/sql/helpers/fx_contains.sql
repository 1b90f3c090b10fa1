create function fx_contains(t text, p text) returns boolean immutable language sql as $$ select strpos(t, p) > 0 $$;
