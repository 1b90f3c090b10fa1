-- needs: fx_rounddown
create function fx_trunc(x float8, n float8 default 0) returns float8 immutable language sql as $$ select fx_rounddown(x, n) $$;
