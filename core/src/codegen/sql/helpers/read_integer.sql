-- needs: read_number, to_whole
create function read_integer(t text, decimal_mark text, group_mark text) returns bigint immutable language sql as $$
  select case when t ~ '^-?[0-9]{1,15}$' then t::bigint else to_whole(read_number_as_written(t, decimal_mark, group_mark)) end $$;
