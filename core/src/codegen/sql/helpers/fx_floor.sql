create function fx_floor(x float8, s float8 default 1) returns float8 immutable language sql as $$
  select case when s = 0 then case when x = 0 then 0 end else (floor(((x::numeric / abs(s)::numeric)::float8::numeric)) * abs(s)::numeric)::float8 end $$;
