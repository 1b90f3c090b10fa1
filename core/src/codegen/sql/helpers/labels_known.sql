-- needs: say_or_stop
-- labels that no column is made of are named, with their rows
create function labels_known(labels text, known text[], present text[], counts bigint[]) returns boolean language plpgsql as $fn$
declare whole boolean := true;
begin
  for i in 1 .. coalesce(cardinality(present), 0) loop
    if not coalesce(present[i], '') = any(known) then
      whole := false;
      call say_or_stop(format('“%s” has “%s” in %s rows, of which no column is made.', labels, coalesce(present[i], 'Empty'), counts[i]));
    end if;
  end loop;
  return whole;
end $fn$;
