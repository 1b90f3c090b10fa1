-- needs: say_or_stop
-- cells that did not read are empty from here on; how many is said
create function cells_read(name text, kind text, unread bigint) returns boolean language plpgsql as $fn$
begin
  if unread > 0 then
    call say_or_stop(format('%s %s of “%s” cannot be read as %s; they are empty.', unread, case when unread = 1 then 'cell' else 'cells' end, name, kind));
  end if;
  return unread = 0;
end $fn$;
