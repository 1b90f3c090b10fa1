-- needs: exact_sum
-- in two passes, of what each value is above the first, so that equal values deviate by nothing
create function deviation_of(v float8[]) returns float8 immutable language sql as $$
  select case when count(*) > 1 then sqrt(exact_sum(case when abs(x - v[1] - m) > 1e-150 then (x - v[1] - m) * (x - v[1] - m) else 0 end order by at) / (count(*) - 1)) end
  from unnest(v) with ordinality u(x, at), (select exact_sum(y - v[1] order by at) / count(*) m from unnest(v) with ordinality w(y, at)) a $$;
