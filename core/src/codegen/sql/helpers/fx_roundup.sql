create function fx_roundup(x float8, n float8 default 0) returns float8 immutable language sql as $$
  select case when n is null then null when n >= 0 and x = trunc(x) then x
    -- ten to that power is more than a float holds
    when n < -308 then case when x = 0 then 0 end
    else sign(x) * (ceil(abs(x)::numeric * (10::numeric ^ least(400, trunc(n))::int)) / (10::numeric ^ least(400, trunc(n))::int))::float8 end $$;
