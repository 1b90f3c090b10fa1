create function workdays_to(d date) returns bigint immutable language sql as $$
  select floor((d - date '1970-01-01' + 3) / 7.0)::bigint * 5 + least(extract(isodow from d)::bigint, 5) $$;
create function fx_networkdays(s timestamp, e timestamp) returns bigint immutable language sql as $$
  select case when s::date <= e::date then workdays_to(e::date) - workdays_to(s::date - 1) else -(workdays_to(s::date) - workdays_to(e::date - 1)) end $$;
