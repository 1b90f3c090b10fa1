create function date_within(d date) returns date immutable language sql as $$ select case when d between date '0001-01-01' and date '9999-12-31' then d end $$;
