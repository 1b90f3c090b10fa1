-- needs: whole, exact_sum
create function fx_sum(variadic x bigint[]) returns bigint immutable language sql as $$ select whole(sum(v)) from unnest(x) v $$;
create function fx_sum(variadic x float8[]) returns float8 immutable language sql as $$ select exact_sum(v) from unnest(x) v $$;
