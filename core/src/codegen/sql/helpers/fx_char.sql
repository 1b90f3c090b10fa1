create function fx_char(n float8) returns text immutable language sql as $$ select case when trunc(n) between 1 and 255 and trunc(n) not between 55296 and 57343 then chr(trunc(n)::int) end $$;
