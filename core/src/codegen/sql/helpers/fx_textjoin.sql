create function fx_textjoin(s text, k boolean, variadic v text[]) returns text immutable language sql as $$
  select nullif(case when k then array_to_string(v, coalesce(s, '')) else array_to_string(v, coalesce(s, ''), '') end, '') $$;
