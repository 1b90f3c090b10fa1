-- needs: exact_sum
create function fx_average(variadic x float8[]) returns float8 immutable language sql as $$ select exact_sum(v) / nullif(count(v), 0) from unnest(x) v $$;
