create function to_whole(x float8) returns bigint immutable language sql as $$
  select case when abs(x) <= 9007199254740991 then case when x = trunc(x) then x::bigint else round(x::numeric)::bigint end end $$;
