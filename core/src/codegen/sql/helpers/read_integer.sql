-- needs: read_number, to_whole
create function read_integer(t text, decimal_mark text, group_mark text) returns bigint immutable language sql as $$ select to_whole(read_number(t, decimal_mark, group_mark)) $$;
