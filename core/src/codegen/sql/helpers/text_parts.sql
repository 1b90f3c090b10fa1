-- a part of a text, by what stands beside it; nothing where it is not found
create function last_at(t text, w text) returns int immutable language sql as $$ select case when strpos(reverse(t), reverse(w)) = 0 then 0 else length(t) - strpos(reverse(t), reverse(w)) - length(w) + 2 end $$;
create function text_before(t text, w text, is_last boolean) returns text immutable language sql as $$ select case when at > 0 then left(t, at - 1) end from (select case when is_last then last_at(t, w) else strpos(t, w) end) x(at) $$;
create function text_after(t text, w text, is_last boolean) returns text immutable language sql as $$ select case when at > 0 then substr(t, at + length(w)) end from (select case when is_last then last_at(t, w) else strpos(t, w) end) x(at) $$;
create function text_between(t text, a text, b text, is_last boolean) returns text immutable language plpgsql as $fn$
declare found text; at int := 1; s int; e int;
begin
  loop
    s := strpos(substr(t, at), a);
    exit when coalesce(s, 0) = 0;
    s := at + s - 1 + length(a);
    e := strpos(substr(t, s), b);
    exit when e = 0;
    found := substr(t, s, e - 1);
    exit when not is_last;
    at := s - length(a) + 1;
  end loop;
  return found;
end $fn$;
