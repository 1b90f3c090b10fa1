-- a value as CSV writes it
create function shown(x text) returns text immutable language sql as $$ select x $$;
create function shown(x bigint) returns text immutable language sql as $$ select x::text $$;
create function shown(x boolean) returns text immutable language sql as $$ select x::text $$;
-- the fewest digits that say which double it is
create function shortest(x float8) returns text immutable language sql set extra_float_digits = 1 as $$ select x::text $$;
create function shown(x float8) returns text stable language sql as $$
  select case when x = 0 then '0'
    when abs(x) < 1e-300 then regexp_replace(shortest(x::text::float8), 'e-0*', 'e-')
    when abs(x) >= 1e21 or abs(x) < 1e-7 then regexp_replace(regexp_replace(x::text, 'e\+0*', 'e'), 'e-0*', 'e-')
    else trim_scale(x::numeric)::text end $$;
create function shown(x date) returns text immutable language sql as $$ select to_char(x, 'YYYY-MM-DD') $$;
create function shown(x timestamp) returns text immutable language sql as $$
  select to_char(x, 'YYYY-MM-DD"T"HH24:MI:SS') || case when to_char(x, 'MS') = '000' then '' else '.' || to_char(x, 'MS') end $$;
create function shown(x time) returns text immutable language sql as $$
  select to_char(x, 'HH24:MI:SS') || case when to_char(x, 'MS') = '000' then '' else '.' || to_char(x, 'MS') end $$;
