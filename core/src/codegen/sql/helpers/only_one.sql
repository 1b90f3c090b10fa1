-- the single value of a cell; a second is refused
create function only_one(given anyarray, place text) returns anyelement immutable language plpgsql as $fn$
begin
  if cardinality(given) > 1 then raise exception 'Two values meet in one cell of %: % and %. Choose a measure such as their sum, or another column that tells the rows apart.', place, given[1], given[2]; end if;
  return given[1];
end $fn$;
