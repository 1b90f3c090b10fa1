create function fx_substitute(t text, o text, n text) returns text immutable language sql as $$ select nullif(replace(t, o, n), '') $$;
create function fx_substitute(t text, o text, n text, w float8) returns text immutable language sql as $$
  select case when trunc(w) < 1 then null when o = '' or array_length(p, 1) <= trunc(w) then t
    else nullif(array_to_string(p[:trunc(w)::int], o) || n || array_to_string(p[trunc(w)::int + 1:], o), '') end
  from (select string_to_array(t, nullif(o, '')) p) parts $$;
