-- needs: letters
create function natural_key(t text) returns text immutable language sql as $$
  select string_agg(case when m[1] ~ '^[0-9]' then '0' || lpad(length(d)::text, 4, '0') || d else m[1] end, '' order by n)
  from regexp_matches(lower_of(t), '[0-9]+|[^0-9]+', 'g') with ordinality as parts(m, n), lateral (select regexp_replace(m[1], '^0+(?=[0-9])', '')) s(d) $$;
