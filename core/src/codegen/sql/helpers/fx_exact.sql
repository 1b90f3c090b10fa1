create function fx_exact(a text, b text) returns boolean immutable language sql as $$ select a = b $$;
