create function fx_unichar(n float8) returns text immutable language sql as $$ select case when trunc(n) between 1 and 1114111 and trunc(n) not between 55296 and 57343 then chr(trunc(n)::int) end $$;
