create function fx_xor(variadic c boolean[]) returns boolean immutable language sql as $$ select case when bool_or(v is null) then null else count(*) filter (where v) % 2 = 1 end from unnest(c) v $$;
