-- a text cut into pieces; what stands beyond the last piece stays joined in it
create function pieces_by_text(t text, d text, way text, most int) returns text[] immutable language sql as $$
  select case when t is null then null when strpos(t, d) = 0 or most = 1 then array[t]
    when way = 'first' then array[left(t, strpos(t, d) - 1), substr(t, strpos(t, d) + length(d))]
    when way = 'last' then array[left(t, length(t) - length(p[cardinality(p)]) - length(d)), p[cardinality(p)]]
    when cardinality(p) <= most then p else p[1:most - 1] || array_to_string(p[most:], d) end
  from (select string_to_array(t, d)) x(p) $$;
