-- needs: say_or_stop
-- rows that stand more than once after a match, by repeated keys
create function keys_single(keys text, repeated numeric) returns boolean language plpgsql as $fn$
begin
  if repeated > 0 then
    call say_or_stop(format('Matching by %s makes %s more rows by repeated keys.', keys, repeated));
  end if;
  return coalesce(repeated, 0) = 0;
end $fn$;
