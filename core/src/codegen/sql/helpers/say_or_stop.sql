-- what a reader should look at is said on standard error; with -v strict=1 the script stops there
create procedure say_or_stop(sentence text) language plpgsql as $fn$
begin
  if current_setting('fabula.strict', true) = 'on' then raise exception '%', sentence; end if;
  raise warning '%', sentence;
end $fn$;
