create function fx_exp(x float8) returns float8 immutable language sql as $$ select case when x < 709.78 then case when x < -745 then 0 else exp(x) end end $$;
