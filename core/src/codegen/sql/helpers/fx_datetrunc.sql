-- needs: date_within
create function fx_datetrunc(d timestamp, u text) returns timestamp immutable language sql as $$ select date_trunc(u, d) $$;
create function fx_datetrunc(d date, u text) returns date immutable language sql as $$ select date_within(date_trunc(u, d::timestamp)::date) $$;
